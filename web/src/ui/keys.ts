/** Whether a key goes to something that text is written in. */
export function typing(e: KeyboardEvent): boolean {
  const target = e.target as HTMLElement;
  return target.isContentEditable || target.matches("input, textarea, select");
}
