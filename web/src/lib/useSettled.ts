import { useEffect, useState } from "react";

/** A value once it has not changed for a moment: so that a question is not asked at every letter. */
export function useSettled<T>(value: T, ms = 600): T {
  const key = JSON.stringify(value);
  const [settled, setSettled] = useState({ key, value });
  useEffect(() => {
    if (settled.key === key) return;
    const timer = setTimeout(() => setSettled({ key, value }), ms);
    return () => clearTimeout(timer);
  }, [key, value, ms, settled.key]);
  return settled.value;
}
