const CUT = ".cut, .truncate, .line-clamp-2";

/** What is cut for want of room tells its whole when it is pointed at or comes into focus, wherever it stands. */
export function tellWholes(): void {
  for (const kind of ["pointerover", "focusin"]) {
    document.addEventListener(kind, (event) => {
      const cut = event.target instanceof Element ? event.target.closest<HTMLElement>(CUT) : null;
      if (cut && !cut.title && isCut(cut)) cut.title = cut.textContent ?? "";
    });
  }
}

function isCut(it: HTMLElement): boolean {
  return it.scrollWidth > it.clientWidth || it.scrollHeight > it.clientHeight + 2;
}
