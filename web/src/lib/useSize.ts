import { useCallback, useState } from "react";

/** Width and height of an element, followed as it changes. */
export function useSize<T extends Element>(): [
  (element: T | null) => (() => void) | undefined,
  { width: number; height: number },
] {
  const [size, setSize] = useState({ width: 0, height: 0 });
  const measure = useCallback((element: T | null) => {
    if (!element) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [measure, size];
}
