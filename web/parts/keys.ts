/**
 * Single keys that lead to parts of a place, by Tab there may be a hundred stops between. Keys that are typed into a
 * field, or held with others, are left alone.
 *
 * @param focus key => selector of what it leads to
 * @param press key => selector of what it leads to and presses
 */
export function lead(
  event: KeyboardEvent,
  place: HTMLElement | undefined,
  focus: Record<string, string>,
  press: Record<string, string>,
): void {
  if (
    event.altKey ||
    event.ctrlKey ||
    event.metaKey ||
    (event.target as HTMLElement).closest('input:not([type=checkbox]), textarea, select, [contenteditable], [role=dialog]')
  )
    return;
  const selector = focus[event.key] ?? press[event.key];
  const part = selector && place?.querySelector<HTMLElement>(selector);
  if (!part) return;
  event.preventDefault();
  part.focus();
  if (press[event.key]) part.click();
}
