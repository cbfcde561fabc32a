import { useRef } from "react";

/**
 * Gives focus back to where it was when something opened. Sheets are opened by many things, so that none is known to
 * Radix as the trigger; a row that was drawn anew in between is known by its address and its name, and what stood in a
 * menu by the menu's button.
 */
export function useFocusBefore(isOpen: boolean): (event: Event) => void {
  const wasOpen = useRef(false);
  const before = useRef<HTMLElement | null>(null);
  // While it is being drawn: a field inside that wants the focus takes it before any effect of ours.
  if (isOpen && !wasOpen.current) before.current = opener();
  wasOpen.current = isOpen;
  return (event) => {
    event.preventDefault();
    const was = before.current;
    (was?.isConnected ? was : was && likeIt(was))?.focus();
  };
}

function opener(): HTMLElement | null {
  const active = document.activeElement;
  const button = active?.closest("[role=menu]")?.getAttribute("aria-labelledby");
  const found = button ? document.getElementById(button) : active;
  return found instanceof HTMLElement ? found : null;
}

function likeIt(was: HTMLElement): HTMLElement | undefined {
  const name = (it: HTMLElement) => it.getAttribute("aria-label") ?? it.textContent;
  return [...document.querySelectorAll<HTMLElement>(was.tagName)].find(
    (it) => it.getAttribute("href") === was.getAttribute("href") && name(it) === name(was),
  );
}
