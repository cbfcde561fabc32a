import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { useFocusBefore } from "./useFocusBefore";

type Props = {
  isOpen: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  form?: "sheet" | "dialog" /** No way past it: only what it asks for closes it. */;
  isLasting?: boolean;
};

const PLACE = {
  sheet: "right-0 top-0 h-full w-[420px] max-w-full border-l",
  dialog: "left-1/2 top-[12vh] max-h-[76vh] w-[520px] max-w-[94vw] -translate-x-1/2 border",
};

/** A sheet from the right, or a dialog in the middle: both keep focus, close with Escape and give focus back. */
export function Sheet({ isOpen, onClose, title, children, form = "sheet", isLasting }: Props) {
  const giveBack = useFocusBefore(isOpen);
  return (
    <Dialog.Root open={isOpen} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/25" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={giveBack}
          className={`fixed z-50 flex flex-col overflow-y-auto border-rule-strong bg-panel p-5 text-ink shadow-2xl ${PLACE[form]}`}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <Dialog.Title className="text-[18px] leading-tight">{title}</Dialog.Title>
            {!isLasting && (
              <Dialog.Close aria-label="Close" className="-mr-1 p-1 hover:text-berry">
                <X size={18} />
              </Dialog.Close>
            )}
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
