import { Check, Copy } from "lucide-react";
import { useState } from "react";
import { useToast } from "./Toast";

type Props = { text: string; said: string };

/** Copies a text; `said` is what is told then. */
export function CopyButton({ text, said }: Props) {
  const [isDone, setDone] = useState(false);
  const say = useToast();
  return (
    <button
      type="button"
      aria-label={`Copy ${text}`}
      className="inline-flex h-6 w-6 shrink-0 items-center justify-center hover:text-berry"
      onClick={async (event) => {
        event.preventDefault();
        event.stopPropagation();
        try {
          await navigator.clipboard.writeText(text);
          setDone(true);
          say(said);
          setTimeout(() => setDone(false), 2000);
        } catch {
          say("The browser did not allow copying. Mark the text and copy it by hand.", "wrong");
        }
      }}
    >
      {isDone ? <Check size={14} /> : <Copy size={14} />}
    </button>
  );
}
