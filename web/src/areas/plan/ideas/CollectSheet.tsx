import { useEffect, useRef } from "react";
import { CopyButton } from "../../../ui/CopyButton";
import { Sheet } from "../../../ui/Sheet";
import { bookmarklet } from "./rules";

/** How a page that one is reading becomes an idea: by a mark in the browser, or by sharing from a phone. */
export function CollectSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  return (
    <Sheet isOpen={isOpen} onClose={onClose} title="From a page you are reading">
      <div className="flex flex-col gap-3">
        <p>
          Drag this into the bar of your browser. Pressed on any page, it opens a new idea here with the page’s title,
          its address, its picture and whatever you marked.
        </p>
        <p className="flex items-center gap-2">
          <Mark />
          <CopyButton
            text={bookmarklet(location.origin)}
            said="Copied. Make a bookmark and put it in as its address."
          />
        </p>
        <p className="label">
          It reads these four of the page when you press it, and sends nothing before you keep the idea.
        </p>
        <h3 className="text-[16px]">On a phone or a tablet</h3>
        <p>
          Put Dakika on the home screen (in the browser’s menu). It then stands among the places that pages and pictures
          can be shared to.
        </p>
      </div>
    </Sheet>
  );
}

function Mark() {
  const anchor = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    // An address that is a program: put in beside the drawing, which refuses them, since here it is meant to be one.
    const here = anchor.current;
    here?.setAttribute("href", bookmarklet(location.origin));
    // Pressed here it would keep this very page.
    const stay = (event: Event) => event.preventDefault();
    here?.addEventListener("click", stay);
    return () => here?.removeEventListener("click", stay);
  }, []);
  return (
    // biome-ignore lint/a11y/useValidAnchor: it is dragged, as addresses are
    <a
      ref={anchor}
      className="inline-flex h-8 cursor-grab items-center border border-berry px-3 font-semibold text-berry"
      draggable
    >
      Keep as an idea
    </a>
  );
}
