/** Whether changes are told as they happen; else screens ask again now and then. */

let isLive = false;

/** Told by whoever listens (study/listening.ts). */
export function setLive(is: boolean): void {
  isLive = is;
}

/** While changes are told, asking is a net below that alone. */
const SLOW_MS = 120_000;

/** How long until one asks again: as given where nothing is told, and hardly ever where everything is. */
export const paced = (ms: number): number => (isLive ? Math.max(ms, SLOW_MS) : ms);

/** While something goes on that one waits for: its end may be told before the last of it is over. */
const MOVING_MS = 3_000;
export const moving = (ms: number): number => (isLive ? Math.max(ms, MOVING_MS) : ms);

/** The same for a question that is always asked again. */
export const every = (ms: number) => () => paced(ms);
