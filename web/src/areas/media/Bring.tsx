import { type ReactNode, useRef, useState } from "react";
import { useBrand } from "../../study/brand";
import { Button } from "../../ui/Button";
import { inputLook } from "../../ui/Field";
import { useToast } from "../../ui/Toast";
import { type Asset, useBring, useBringFrom } from "./queries";
import { filesIn, TAKEN } from "./rules";

/** Brings files one after the other, and says what went wrong with which. */
export function useBringing(onBrought: (asset: Asset) => void) {
  const { brand } = useBrand();
  const bring = useBring(brand.slug);
  const say = useToast();
  const [left, setLeft] = useState(0);
  const [share, setShare] = useState(0);
  const go = async (files: File[]) => {
    setLeft((n) => n + files.length);
    for (const file of files) {
      try {
        onBrought(await bring.mutateAsync({ file, onProgress: setShare }));
      } catch (error) {
        say(`${file.name}: ${(error as Error).message}`, "wrong");
      } finally {
        setLeft((n) => n - 1);
        setShare(0);
      }
    }
  };
  return { go, left, share };
}

type Props = { onBrought: (asset: Asset) => void; children?: ReactNode };

/** Bringing files: chosen, dropped, pasted, or from an address. */
export function Bring({ onBrought, children }: Props) {
  const { brand } = useBrand();
  const chosen = useRef<HTMLInputElement>(null);
  const { go, left, share } = useBringing(onBrought);
  const from = useBringFrom(brand.slug);
  const [address, setAddress] = useState<string | null>(null);
  const [isOver, setOver] = useState(false);
  const fetchIt = () => {
    if (!address) return;
    from.mutate(address, {
      onSuccess: (asset) => {
        onBrought(asset);
        setAddress(null);
      },
    });
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the button beside it does the same by keyboard
    <div
      className={`border border-dashed p-2 ${isOver ? "border-berry bg-wash" : "border-rule-strong"}`}
      onDragOver={(event) => {
        if (event.dataTransfer.types.includes("Files")) {
          event.preventDefault();
          setOver(true);
        }
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        void go(filesIn(event.dataTransfer));
      }}
      onPaste={(event) => {
        const files = filesIn(event.clipboardData);
        if (files.length) {
          event.preventDefault();
          void go(files);
        }
      }}
    >
      {children}
      <div className="flex flex-wrap items-center gap-2">
        <input
          ref={chosen}
          type="file"
          multiple
          accept={TAKEN}
          className="sr-only"
          aria-label="Files to bring"
          tabIndex={-1}
          onChange={(event) => {
            void go([...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
        <Button onClick={() => chosen.current?.click()}>Bring files</Button>
        <span className="label">or drop or paste them here,</span>
        {address === null ? (
          <button type="button" className="under h-6 hover:text-berry" onClick={() => setAddress("")}>
            or from an address
          </button>
        ) : (
          <span className="flex min-w-0 flex-1 gap-1">
            <input
              aria-label="Address of a picture or video"
              placeholder="https://"
              className={inputLook}
              value={address}
              onChange={(event) => setAddress(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === "Enter") {
                  event.preventDefault();
                  fetchIt();
                }
              }}
            />
            <Button isBusy={from.isPending} onClick={fetchIt}>
              Fetch
            </Button>
          </span>
        )}
        {left > 0 && (
          <span role="status" className="text-muted">
            {left} on the way{share > 0 && `, ${Math.round(share * 100)} % of this one`}
          </span>
        )}
      </div>
      {from.error && (
        <p role="alert" className="mt-1 text-down">
          {from.error.message}
        </p>
      )}
    </div>
  );
}
