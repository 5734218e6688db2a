<script lang="ts">
  import { api } from '@/api/client';
  import type { HistoryEntry } from '@/api/types';
  import Comments from '@/parts/Comments.svelte';
  import { moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import type { Reading } from './document.svelte';

  /** What was said of a document, and what was done to it. */
  let { reading }: { reading: Reading } = $props();
  const record = $derived(reading.record!);

  let history = $state.raw<HistoryEntry[] | null>(null);
  const maySeeHistory = $derived(record.may_see_history);
</script>

{#if record.state === 'filed'}
  {#if !record.destroyed_at}
    <h3 class="mt-4 text-[17px]">Comments</h3>
    <Comments
      of="document"
      key={record.ref}
      marks={reading.hits.comments}
      load={() => (record.comments > 0 ? api.comments(record.ref) : Promise.resolve({ comments: [] }))}
      say={(text) => api.comment(record.ref, text)}
      takeBack={(id) => api.removeComment(record.ref, id)}
    />
  {/if}
  {#if maySeeHistory}
    <h3 class="mt-4 text-[17px]">
      <button
        class="link"
        aria-expanded={history !== null}
        onclick={async () => (history = history ? null : (await api.documentHistory(record.ref)).history)}
        >{history ? 'Hide the history' : 'History'}</button
      >
      {#if app.person?.may.oversee}<a class="small ml-3 font-sans" href={`/oversight/history?document=${record.ref}&act=viewed`}
          >Who read it</a
        >{/if}
    </h3>
    {#if history}
      <ul>
        {#each history as entry, i (i)}
          <li class="border-t border-hair py-1">
            <p>
              {entry.act}
              <span class="small quiet"
                >{entry.through ? `${entry.through}${entry.by ? `, undone by ${entry.by}` : ''}` : `by ${entry.by ?? 'the system'}`}, {moment(
                  entry.at,
                )}</span
              >
            </p>
            {#each entry.changes as change (change.field)}<p class="small quiet pl-2">
                {change.field}: {#if change.before}<s>{change.before}</s>{/if} <span class="text-ink">{change.after}</span>
              </p>{/each}
          </li>
        {:else}<li class="quiet">Nothing yet.</li>{/each}
      </ul>
    {/if}
  {/if}
{/if}
