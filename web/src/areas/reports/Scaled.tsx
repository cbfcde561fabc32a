import { type ReactNode, useLayoutEffect, useRef, useState } from "react";
import { TALL, WIDE } from "./geometry";

type Props = { most?: number; byHeight?: boolean; children: (scale: number) => ReactNode };

/** A page of paper as large as there is room for. */
export function Scaled({ most = 1.6, byHeight = false, children }: Props) {
  const room = useRef<HTMLDivElement>(null);
  const [scale, setScale] = useState(0.6);
  useLayoutEffect(() => {
    const at = room.current;
    if (!at) return;
    const look = () => {
      const wide = at.clientWidth / WIDE;
      const tall = byHeight ? at.clientHeight / TALL : most;
      setScale(Math.max(0.2, Math.min(wide, tall, most)));
    };
    look();
    if (typeof ResizeObserver === "undefined") return;
    const watching = new ResizeObserver(look);
    watching.observe(at);
    return () => watching.disconnect();
  }, [most, byHeight]);
  return (
    <div ref={room} className={`min-w-0 ${byHeight ? "flex h-full items-center justify-center" : "w-full"}`}>
      <div style={{ width: WIDE * scale, height: TALL * scale, margin: "0 auto" }}>
        <div style={{ width: WIDE, height: TALL, transform: `scale(${scale})`, transformOrigin: "0 0" }}>
          {children(scale)}
        </div>
      </div>
    </div>
  );
}
