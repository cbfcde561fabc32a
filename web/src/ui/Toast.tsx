import { createContext, type ReactNode, useCallback, useContext, useState } from "react";

type Say = (text: string, kind?: "good" | "wrong") => void;
const Context = createContext<Say>(() => undefined);

/** Say something short that needs no answer. */
export function useToast(): Say {
  return useContext(Context);
}

export function Toasts({ children }: { children: ReactNode }) {
  const [said, setSaid] = useState<{ id: number; text: string; kind: string }[]>([]);
  const say = useCallback<Say>((text, kind = "good") => {
    const id = Date.now() + Math.random();
    setSaid((all) => [...all.slice(-2), { id, text, kind }]);
    setTimeout(() => setSaid((all) => all.filter((one) => one.id !== id)), 6000);
  }, []);
  return (
    <Context.Provider value={say}>
      {children}
      <div aria-live="polite" className="fixed bottom-4 left-4 z-50 flex flex-col gap-2">
        {said.map((one) => (
          <div
            key={one.id}
            className={`border-l-4 bg-shell px-4 py-2 text-shell-ink shadow-xl ${one.kind === "good" ? "border-up" : "border-down"}`}
          >
            {one.text}
          </div>
        ))}
      </div>
    </Context.Provider>
  );
}
