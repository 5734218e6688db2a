<script lang="ts" generics="T extends { code: string; lock_version: number }">
  import type { Snippet } from 'svelte';
  import { keys } from '@/state/keys.svelte';
  import type { Editing } from './editing.svelte';

  interface Props {
    editing: Editing<T>;
    title: string;
    what: string;
    /** Uses all the room there is. */
    wide?: boolean;
    children: Snippet;
  }
  let { editing, title, what, wide = false, children }: Props = $props();

  const kept = $derived(editing.keptBy.length > 0);
  keys.use(() => [{ on: 'Enter', ctrl: true, typing: true, what: 'Save', run: () => void editing.save(), when: () => !kept }]);
</script>

<form
  class="flex h-full flex-col"
  onsubmit={(e) => {
    e.preventDefault();
    void editing.save();
  }}
  aria-label={title || what}
>
  <header class="flex flex-none items-baseline gap-3 border-b border-hair px-6 py-3">
    <h2 class="min-w-0 flex-1 truncate text-[22px]">{title || `New ${what}`}</h2>
    {#if !editing.isNew && !kept}<button class="link small" type="button" onclick={() => editing.remove()}>Remove</button>{/if}
    <button class="btn btn-main" disabled={editing.busy || kept || !editing.changed}>Save</button>
  </header>
  <div class="min-h-0 flex-1 overflow-y-auto px-6 py-4">
    {#if editing.conflicts.length > 0}
      <div class="mb-4 border-l-2 border-rust pl-3" role="alert">
        <p class="text-rust">
          Somebody else saved this in the meantime. Their changes are taken in; what you both changed is yours to decide.
        </p>
        <ul class="mt-1">
          {#each editing.conflicts as conflict (conflict.path.join('/'))}
            <li class="flex flex-wrap items-baseline gap-x-4 border-t border-hair py-1">
              <span class="min-w-0 flex-1">{conflict.what}: you have {conflict.mine}, they have {conflict.theirs}</span>
              <button class="link small" type="button" onclick={() => editing.decide(conflict, false)}>Keep mine</button><button
                class="link small"
                type="button"
                onclick={() => editing.decide(conflict, true)}>Use their version</button
              >
            </li>
          {/each}
        </ul>
        <p class="small quiet mt-1">Then save again. What you leave undecided stays as you have it.</p>
      </div>
    {/if}
    {#if kept}<p class="mb-3 border-l-2 border-hair pl-3">
        You may read this, not change it: only other groups may change {editing.keptBy.join(', ')}.
      </p>{/if}
    <fieldset disabled={kept} class="min-w-0" class:max-w-[640px]={!wide}>{@render children()}</fieldset>
  </div>
</form>
