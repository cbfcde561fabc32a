/** Completion in a formula: the word being written, and what it may become. */

export type Word = { start: number; end: number; text: string };
const FUNCTIONS = ["min", "max", "abs"];

/** The word that ends where the caret stands. */
export function wordAt(formula: string, caret: number): Word {
  const before = /[A-Za-z_][A-Za-z_0-9]*$/.exec(formula.slice(0, caret));
  const start = before ? caret - before[0].length : caret;
  return { start, end: caret, text: before?.[0] ?? "" };
}

/** Names that begin with the word, then those that hold it; nothing when it is whole already. */
export function completions(word: string, names: string[], most = 8): string[] {
  if (!word) return [];
  const low = word.toLowerCase();
  const all = [...names, ...FUNCTIONS];
  if (all.includes(low)) return [];
  const begins = all.filter((name) => name.startsWith(low));
  const holds = all.filter((name) => !name.startsWith(low) && name.includes(low));
  return [...begins, ...holds].slice(0, most);
}

/** The formula with the word replaced, and where the caret goes: into the brackets of a function. */
export function completed(formula: string, word: Word, name: string): { text: string; caret: number } {
  const put = FUNCTIONS.includes(name) ? `${name}()` : name;
  const text = formula.slice(0, word.start) + put + formula.slice(word.end);
  return { text, caret: word.start + put.length - (put.endsWith("()") ? 1 : 0) };
}
