type Asked = { queryKey: readonly unknown[] };

/**
 * What may stay on the screen while something else is fetched: only answers to the same question (its first key
 * parts), in another order or with other columns. Old figures are never shown under a new name or new dates.
 */
export function keptWithin(...question: unknown[]) {
  const same = JSON.stringify(question);
  return <T>(old: T | undefined, before?: Asked): T | undefined =>
    before && JSON.stringify(before.queryKey.slice(0, question.length)) === same ? old : undefined;
}
