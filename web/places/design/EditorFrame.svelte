<script lang="ts" generics="T extends { code: string; lock_version: number }">
  import type { Snippet } from 'svelte';
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
  function keydown(event: KeyboardEvent) {
    if (event.key === 'Enter' && event.ctrlKey && !kept) void editing.save();
  }
</script>

<svelte:window onkeydown={keydown} />

<form class="flex h-full flex-col" onsubmit={(e) => { e.preventDefault(); void editing.save(); }} aria-label={title || what}>
  <header class="flex flex-none items-baseline gap-3 border-b border-hair px-6 py-3">
    <h2 class="min-w-0 flex-1 truncate text-[22px]">{title || `New ${what}`}</h2>
    {#if !editing.isNew && !kept}<button class="link small" type="button" onclick={() => editing.remove()}>Remove</button>{/if}
    <button class="btn btn-main" disabled={editing.busy || kept || !editing.changed}>Save</button>
  </header>
  <div class="min-h-0 flex-1 overflow-y-auto px-6 py-4">
    {#if editing.theirs}
      <div class="mb-4 border-l-2 border-rust pl-3" role="alert">
        <p class="text-rust">Somebody else changed this while you were working on it. Nothing was overwritten.</p>
        <pre class="small mono my-1 max-h-40 overflow-auto whitespace-pre-wrap">{JSON.stringify(editing.theirs, null, 1)}</pre>
        <button class="link" type="button" onclick={() => editing.takeTheirs()}>Take theirs</button> <span class="small quiet">or save again to keep yours.</span>
      </div>
    {/if}
    {#if kept}<p class="mb-3 border-l-2 border-hair pl-3">Not yours to design: {editing.keptBy.join(', ')} is kept to other groups. You see it as it is.</p>{/if}
    <fieldset disabled={kept} class="min-w-0" class:max-w-[640px]={!wide}>{@render children()}</fieldset>
  </div>
</form>
