<script lang="ts">
  import { api } from '@/api/client';
  import type { DocumentComment, HistoryEntry } from '@/api/types';
  import { moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import type { Reading } from './document.svelte';

  /** What was said of a document, and what was done to it. */
  let { reading }: { reading: Reading } = $props();
  const record = $derived(reading.record!);

  let comments = $state.raw<DocumentComment[] | null>(null);
  let history = $state.raw<HistoryEntry[] | null>(null);
  let text = $state('');
  // svelte-ignore state_referenced_locally
  if (record.comments > 0) void api.comments(record.ref).then((got) => (comments = got.comments), () => {});
  const maySeeHistory = $derived(record.may_change || app.person?.role === 'manager');

  async function add(event: SubmitEvent) {
    event.preventDefault();
    comments = (await api.comment(record.ref, text.trim())).comments;
    text = '';
  }
  async function remove(comment: DocumentComment) {
    comments = (await api.removeComment(record.ref, comment.id)).comments;
    app.say('The comment is taken back.', { undo: () => void api.comment(record.ref, comment.text).then((got) => (comments = got.comments)) });
  }
</script>

{#if record.state === 'filed'}
  <h3 class="mt-4 text-[17px]">Comments</h3>
  <ul>
    {#each comments ?? [] as comment (comment.id)}
      <li class="border-t border-hair py-1"><p class="whitespace-pre-wrap">{comment.text}</p><p class="small quiet">{comment.by}, {moment(comment.at)}{#if comment.own} <button class="link ml-2" onclick={() => remove(comment)}>take back</button>{/if}</p></li>
    {/each}
  </ul>
  <form class="border-t border-hair pt-1" onsubmit={add}>
    <label class="sr-only" for="comment">A comment</label>
    <textarea class="input" id="comment" rows={text ? 3 : 1} placeholder="Say something of this document" bind:value={text} onkeydown={(e) => { if (e.key === 'Enter' && e.ctrlKey) e.currentTarget.form?.requestSubmit(); }}></textarea>
    {#if text.trim()}<button class="btn mt-1">Comment</button>{/if}
  </form>
  {#if maySeeHistory}
    <h3 class="mt-4 text-[17px]"><button class="link" aria-expanded={history !== null} onclick={async () => (history = history ? null : (await api.documentHistory(record.ref)).history)}>{history ? 'Hide the history' : 'History'}</button></h3>
    {#if history}
      <ul>
        {#each history as entry, i (i)}
          <li class="border-t border-hair py-1"><p>{entry.act} <span class="small quiet">by {entry.by ?? 'the system'}, {moment(entry.at)}</span></p>{#each entry.changes as change (change.field)}<p class="small quiet pl-2">{change.field}: {#if change.before}<s>{change.before}</s>{/if} <span class="text-ink">{change.after}</span></p>{/each}</li>
        {:else}<li class="quiet">Nothing yet.</li>{/each}
      </ul>
    {/if}
  {/if}
{/if}
