import { useRef } from "react";

/** What stands over the page and goes again: a focus in there is none to come back to. */
const OVER = "[role=dialog], [role=menu]";

let lastOnPage: HTMLElement | null = null;
if (typeof document !== "undefined")
  document.addEventListener("focusin", ({ target }) => {
    if (target instanceof HTMLElement && !target.closest(OVER)) lastOnPage = target;
  });

/**
 * Gives focus back to where it was when something opened. Sheets are opened by many things, so that none is known to
 * Radix as the trigger. What stood in a menu, or was drawn anew in between together with the sheet, gives it to what had
 * the focus last on the page itself; that one is known by its address and its name where it was drawn anew, too.
 */
export function useFocusBefore(isOpen: boolean): (event: Event) => void {
  const wasOpen = useRef(false);
  const before = useRef<HTMLElement | null>(null);
  // While it is being drawn: a field inside that wants the focus takes it before any effect of ours.
  if (isOpen && !wasOpen.current) {
    const active = document.activeElement;
    const isNested = active instanceof HTMLElement && active.closest("[role=dialog]") !== null;
    before.current = isNested ? (active as HTMLElement) : null;
  }
  wasOpen.current = isOpen;
  return (event) => {
    event.preventDefault();
    // A sheet that another one opened over itself gives it back there, while that one stands.
    const was = before.current?.isConnected ? before.current : lastOnPage;
    (was?.isConnected ? was : was && likeIt(was))?.focus();
  };
}

function likeIt(was: HTMLElement): HTMLElement | undefined {
  const name = (it: HTMLElement) => it.getAttribute("aria-label") ?? it.textContent;
  return [...document.querySelectorAll<HTMLElement>(was.tagName)].find(
    (it) => it.getAttribute("href") === was.getAttribute("href") && name(it) === name(was),
  );
}
