import { tick } from 'svelte';

/** Gives the focus to an element by its id, once what has just changed is on the page. */
export async function focusOn(id: string): Promise<void> {
  await tick();
  document.getElementById(id)?.focus();
}
