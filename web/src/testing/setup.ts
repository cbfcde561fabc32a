/** What a browser has and jsdom has not, as far as our screens ask for it. Stands before every test file. */

import { setToday } from "../lib/days";
import { current, NOW } from "./server";

// Dates of another year than this one carry theirs, whenever the tests are run.
setToday(NOW.slice(0, 10));

if (typeof window !== "undefined") {
  const { configure } = await import("@testing-library/react");
  // A busy machine is no defect: what comes late has come.
  configure({ asyncUtilTimeout: 90_000 });

  const WIDE = 1200;
  const TALL = 400;

  class Measured implements ResizeObserver {
    constructor(private readonly tell: ResizeObserverCallback) {}
    observe(target: Element) {
      const contentRect = { width: WIDE, height: TALL } as DOMRectReadOnly;
      const box = [{ inlineSize: WIDE, blockSize: TALL }];
      this.tell([{ target, contentRect, borderBoxSize: box } as unknown as ResizeObserverEntry], this);
    }
    unobserve() {}
    disconnect() {}
  }

  class LocalRequest extends Request {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(typeof input === "string" ? new URL(input, window.location.href) : input, init);
    }
  }

  Object.assign(globalThis, {
    ResizeObserver: Measured,
    Request: LocalRequest,
    // The client of the API keeps the fetch that it finds when it is made: whichever server stands then answers.
    fetch: (request: Request) => current().answer(request),
  });
  Object.assign(window, {
    matchMedia: (media: string) => ({ matches: false, media, addEventListener() {}, removeEventListener() {} }),
    scrollTo() {},
  });
  Object.defineProperties(HTMLElement.prototype, {
    clientWidth: { get: () => WIDE },
    clientHeight: { get: () => TALL },
    offsetWidth: { get: () => WIDE },
    offsetHeight: { get: () => TALL },
    scrollIntoView: { value() {} },
    hasPointerCapture: { value: () => false },
    setPointerCapture: { value() {} },
    releasePointerCapture: { value() {} },
  });
}
