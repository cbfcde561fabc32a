/** Whether a key goes to a field that takes it, so that it is no shortcut. */
export function isTyped(event: KeyboardEvent): boolean {
  return event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
}
