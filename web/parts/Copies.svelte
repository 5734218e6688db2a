<script lang="ts">
  import { api } from '@/api/client';
  import type { DocumentCopy } from '@/api/types';
  import { plural } from '@/parts/format';
  import type { Snippet } from 'svelte';

  /** Documents that are the same file as one, have the same text, or nearly the same. */
  interface Props {
    document: string;
    /** What stands before the list, where there is one. */
    heading?: Snippet;
    /** What can be done with one of them. */
    acts?: Snippet<[DocumentCopy]>;
  }
  let { document, heading, acts }: Props = $props();

  const MOST = 3;
  let copies = $state.raw<DocumentCopy[]>([]);
  let all = $state(false);
  // Whether there are any is nothing to wait for: what cannot be told is not said.
  // svelte-ignore state_referenced_locally
  void api.copies(document).then(
    (got) => (copies = got.copies),
    () => undefined,
  );
  const shown = $derived(all ? copies : copies.slice(0, MOST));
  const SAYS = { file: 'The same file', text: 'The same words' } as const;
  const says = ({ how, share }: DocumentCopy) =>
    how === 'near' ? `${Math.min(99, Math.round(share * 100))} % of the words the same` : SAYS[how];
</script>

{#if copies.length > 0}
  {@render heading?.()}
  <ul class="small" aria-label="Copies">
    {#each shown as copy (copy.ref)}
      <li class="border-t border-hair py-1.5">
        {says(copy)}:
        {#if copy.state === 'filed'}<a class="link underline" href={`/documents/${encodeURIComponent(copy.ref)}`}>{copy.title}</a><span
            class="quiet">, {copy.library}</span
          >{:else}<span>{copy.file_name}</span><span class="quiet">, waiting in Intake</span>{/if}
        {#if copy.how === 'near' || acts}
          <div class="links">
            {#if copy.how === 'near'}<a
                class="link"
                href={`/documents/${encodeURIComponent(document)}/compare?with=${encodeURIComponent(copy.ref)}`}>Compare the two</a
              >{/if}
            {@render acts?.(copy)}
          </div>
        {/if}
      </li>
    {/each}
  </ul>
  {#if copies.length > shown.length}<button class="link small" type="button" onclick={() => (all = true)}
      >{plural(copies.length - shown.length, 'other', 'others')}</button
    >{/if}
{/if}
