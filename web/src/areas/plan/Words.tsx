import { FileText, Hash, Link2, Smile, Users } from "lucide-react";
import { Popover } from "radix-ui";
import { type KeyboardEvent, type ReactNode, type RefObject, useDeferredValue, useId, useRef, useState } from "react";
import { networkNamed, useBrand } from "../../study/brand";
import { useProfiles } from "../../study/queries";
import { inputLook } from "../../ui/Field";
import { NetworkMark } from "../../ui/Marks";
import { FillTemplate, type FromTemplate } from "./ideas/FillTemplate";
import { begunAt, type Meant, matching } from "./mentions";
import { useEmoji } from "./queries";

type Props = {
  label: string;
  text: string;
  rows: number;
  isEditable: boolean;
  isInvalid?: boolean;
  describedBy?: string;
  /** Where it goes to: whoever is mentioned is to be there. */
  network?: string;
  onText: (text: string) => void;
  onLink?: () => void;
  onFiles?: (files: File[]) => void;
  /** A template that was filled in; without it none is offered. */
  onTemplate?: (told: FromTemplate) => void;
  /** Opens the tray in which hashtags are gathered. */
  onHashtags?: () => void;
  children?: ReactNode;
};

/** Words being written: emoji by name, hashtags of a set, known profiles, a tracked link. Spelling is the browser's. */
export function Words({
  label,
  text,
  rows,
  isEditable,
  isInvalid,
  describedBy,
  network,
  onText,
  onLink,
  onFiles,
  onTemplate,
  onHashtags,
  children,
}: Props) {
  const { brand } = useBrand();
  const id = useId();
  const field = useRef<HTMLTextAreaElement>(null);
  const putAt = (words: string, from: number, to: number) => {
    onText(text.slice(0, from) + words + text.slice(to));
    requestAnimationFrame(() => {
      field.current?.focus();
      field.current?.setSelectionRange(from + words.length, from + words.length);
    });
  };
  const put = (words: string) => {
    const area = field.current;
    putAt(words, area?.selectionStart ?? text.length, area?.selectionEnd ?? text.length);
  };
  const mention = useMention(text, network, putAt);
  return (
    <div>
      <div className="flex items-end gap-3">
        <label htmlFor={id} className="text-[13px] font-semibold">
          {label}
        </label>
        {children}
      </div>
      <div className="relative">
        <textarea
          ref={field}
          id={id}
          {...mention.props}
          aria-describedby={describedBy}
          aria-invalid={isInvalid || undefined}
          value={text}
          readOnly={!isEditable}
          spellCheck
          rows={rows}
          onChange={(event) => {
            mention.look(event.target.value, event.target.selectionStart);
            onText(event.target.value);
          }}
          onPaste={(event) => {
            const files = [...event.clipboardData.files];
            if (files.length && onFiles) {
              event.preventDefault();
              onFiles(files);
            }
          }}
          className="mt-1 block w-full resize-y rounded-[2px] border border-rule-strong bg-panel px-2.5 py-2 text-[15px] leading-[21px] aria-invalid:border-down"
        />
        {isEditable && mention.list}
      </div>
      {isEditable && (
        <div className="flex flex-wrap items-center gap-1 border-x border-b border-rule px-1 py-0.5">
          <Emoji slug={brand.slug} onChosen={put} />
          {onHashtags && (
            <button type="button" onClick={onHashtags} className={TOOL}>
              <Hash size={15} aria-hidden="true" /> hashtags
            </button>
          )}
          {onTemplate && (
            <Tool name="template" icon={<FileText size={15} aria-hidden="true" />}>
              {(close) => (
                <FillTemplate
                  onFilled={(told) => {
                    onTemplate(told);
                    close();
                  }}
                />
              )}
            </Tool>
          )}
          <Mentions network={network} onChosen={(handle) => put(`@${handle} `)} />
          {onLink && (
            <button type="button" onClick={onLink} className={TOOL}>
              <Link2 size={15} aria-hidden="true" /> tracked link
            </button>
          )}
        </div>
      )}
    </div>
  );
}

const TOOL = "inline-flex h-7 items-center gap-1 px-1.5 hover:text-berry";

function Tool({ name, icon, children }: { name: string; icon: ReactNode; children: (close: () => void) => ReactNode }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger className={TOOL}>
        {icon} {name}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          className="z-50 max-h-[min(480px,60vh)] w-[300px] overflow-y-auto border border-rule-strong bg-panel p-2 text-ink shadow-2xl"
        >
          {children(() => setOpen(false))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Emoji({ slug, onChosen }: { slug: string; onChosen: (character: string) => void }) {
  const [text, setText] = useState("");
  const found = useEmoji(slug, useDeferredValue(text)).data ?? [];
  const first: RefObject<HTMLInputElement | null> = useRef(null);
  return (
    <Tool name="emoji" icon={<Smile size={15} aria-hidden="true" />}>
      {() => (
        <>
          <input
            ref={first}
            type="search"
            aria-label="An emoji by its name"
            placeholder="Its name, such as clock"
            className={inputLook}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <ul className="mt-1 flex flex-wrap">
            {found.map((one) => (
              <li key={one.character}>
                <button
                  type="button"
                  title={one.name}
                  aria-label={one.name}
                  className="h-8 w-8 text-[18px] hover:bg-wash"
                  onClick={() => onChosen(one.character)}
                >
                  {one.character}
                </button>
              </li>
            ))}
          </ul>
          {text.length > 1 && found.length === 0 && <p className="label mt-1">No emoji is called so.</p>}
        </>
      )}
    </Tool>
  );
}

/** Who may be meant while a handle is being written: arrows choose, Enter puts it in, Escape leaves it as it is. */
function useMention(
  text: string,
  network: string | undefined,
  putAt: (words: string, from: number, to: number) => void,
) {
  const { brand, networks } = useBrand();
  const id = useId();
  const [begun, setBegun] = useState<{ from: number; letters: string } | null>(null);
  const [at, setAt] = useState(0);
  const profiles = useProfiles(brand.slug).data?.profiles ?? [];
  const found = begun ? matching(profiles, begun.letters, network) : [];
  const chosen = found[Math.min(at, found.length - 1)];
  const choose = (one: Meant) => {
    if (!begun) return;
    const to = begun.from + 1 + begun.letters.length;
    putAt(`@${one.handle}${/^\s/.test(text.slice(to)) ? "" : " "}`, begun.from, to);
    setBegun(null);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (!chosen || event.nativeEvent.isComposing) return;
    const move = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (move) setAt((Math.min(at, found.length - 1) + move + found.length) % found.length);
    else if (event.key === "Enter" || event.key === "Tab") choose(chosen);
    else if (event.key === "Escape") setBegun(null);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return {
    look: (value: string, caret: number) => {
      setBegun(begunAt(value, caret));
      setAt(0);
    },
    props: {
      "aria-autocomplete": "list" as const,
      "aria-controls": chosen && id,
      "aria-activedescendant": chosen && `${id}-${chosen.id}`,
      onKeyDown,
      onBlur: () => setBegun(null),
    },
    list: chosen && (
      <div
        role="listbox"
        id={id}
        aria-label="Who is meant"
        className="absolute inset-x-0 top-full z-40 max-w-[420px] border border-rule-strong bg-panel p-1 shadow-2xl"
      >
        {found.map((one) => (
          <div
            key={one.id}
            id={`${id}-${one.id}`}
            role="option"
            tabIndex={-1}
            aria-selected={one === chosen}
            className={`flex cursor-pointer items-baseline gap-2 px-1.5 py-1 ${one === chosen ? "bg-wash" : "hover:bg-wash"}`}
            // Pressing would take the focus from what is written before it is a click.
            onPointerDown={(event) => {
              event.preventDefault();
              choose(one);
            }}
          >
            <b className="truncate font-semibold">{one.name}</b>{" "}
            <span className="label min-w-0 flex-1 truncate">@{one.handle}</span>
            {one.networks.map((key) => (
              <NetworkMark key={key} network={networkNamed(networks, key)} />
            ))}
          </div>
        ))}
      </div>
    ),
  };
}

function Mentions({ network, onChosen }: { network?: string; onChosen: (handle: string) => void }) {
  const { brand, networks } = useBrand();
  const [text, setText] = useState("");
  const profiles = useProfiles(brand.slug).data?.profiles ?? [];
  const found = matching(profiles, text, network, 30);
  return (
    <Tool name="mention" icon={<Users size={15} aria-hidden="true" />}>
      {(close) => (
        <>
          <input
            type="search"
            aria-label="A profile by its name"
            placeholder="A profile that is followed"
            className={inputLook}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <ul>
            {found.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  className="block w-full truncate px-1 py-1 text-left hover:bg-wash"
                  onClick={() => {
                    onChosen(one.handle);
                    close();
                  }}
                >
                  {one.name}{" "}
                  <span className="label">
                    @{one.handle}, {one.networks.map((key) => networkNamed(networks, key).name).join(", ")}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Tool>
  );
}
