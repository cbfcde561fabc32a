import { useEffect, useRef } from "react";
import { useLocation, useNavigate } from "react-router";
import { isTyped } from "../lib/keys";
import { useAreas } from "../study/areas";
import { carried } from "../study/study";

/** Keys that work on every screen; typing into a field is left alone. */
export function useShellKeys(brand: string, onPalette: () => void, onKeys: () => void): void {
  const navigate = useNavigate();
  const areas = useAreas();
  const { search } = useLocation();
  const waiting = useRef(0);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "k") {
        event.preventDefault();
        onPalette();
        return;
      }
      if (isTyped(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === "?") onKeys();
      else if (event.key === "g") waiting.current = Date.now();
      else if (Date.now() - waiting.current < 1500) {
        const area = areas.find((a) => a.letter === event.key);
        waiting.current = 0;
        if (area) navigate(`/${brand}/${area.path}${carried(search)}`);
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [areas, brand, navigate, onPalette, onKeys, search]);
}
