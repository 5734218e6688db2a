<script lang="ts">
  import type { Search } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import IconChevron from '@lucide/svelte/icons/chevron-right';
  import { untrack } from 'svelte';
  import { ResultThemes } from './themes.svelte';

  interface Props {
    /** What the answer in sight is to. */
    question: string;
    /** How many documents that found; null while it is not known. */
    total: number | null;
    input: () => Search;
    add: (cql: string) => void;
  }
  let { question, total, input, add }: Props = $props();

  const themes = new ResultThemes();
  const found = $derived(themes.found);
  const most = $derived(Math.max(1, ...(found?.themes ?? []).map((t) => t.count)));
  $effect(() => {
    const asked = question;
    if (themes.open && total) void untrack(() => themes.ask(asked, input()));
  });
</script>

<section class="px-3 pb-3" aria-labelledby="themes" aria-busy={themes.busy}>
  <h2 class="text-[15px]" id="themes">
    <button class="head" aria-expanded={themes.open} onclick={() => (themes.open = !themes.open)}
      ><span class="chevron" class:open={themes.open}><IconChevron size={14} strokeWidth={1.7} /></span>Themes
      <span class="small quiet ml-1 font-sans">what this result is about</span></button
    >
  </h2>
  {#if themes.open && themes.fault}
    <p class="fault border-t border-hair py-2" role="alert">{themes.fault}</p>
  {:else if themes.open && found}
    <ul class="small border-t border-hair pt-1">
      {#each found.themes as theme (theme.cql)}
        <li>
          <button class="theme" onclick={() => add(theme.cql)} title="Add to the ledger: documents with at least two of these">
            <span class="min-w-0 flex-1"
              >{#each theme.names as name, i (name.label)}{i > 0 ? ', ' : ''}<span class:font-semibold={i === 0} title={name.field}
                  >{name.label}</span
                >{/each}</span
            >
            <span class="meter" style={`--part:${(theme.count / most) * 100}%`}></span><span class="num w-9">{count(theme.count)}</span>
          </button>
        </li>
      {/each}
    </ul>
    <p class="small quiet">
      {#if found.themes.length === 0}No theme sets a part of this result apart.{:else if found.others > 0}{plural(
          found.others,
          'document',
          'documents',
        )} in no theme.{/if}
      {#if found.without_text > 0}{plural(found.without_text, 'document has', 'documents have')} no text and {found.without_text === 1
          ? 'is'
          : 'are'} left out.{/if}
    </p>
    {#if found.words.length > 0}
      <h3 class="heading mt-2">Words that stand out</h3>
      <ul class="small flex flex-wrap gap-x-3">
        {#each found.words as word (word.word)}
          <li>
            <button
              class="link min-h-6"
              title={`In ${count(word.count)} of these, and in ${count(word.all)} of all you may see`}
              onclick={() => add(word.cql)}>{word.word}</button
            ><span class="quiet num ml-1">×{word.ratio.toLocaleString('en', { maximumFractionDigits: 1 })}</span>
          </li>
        {/each}
      </ul>
    {/if}
  {/if}
</section>

<style>
  .head {
    display: flex;
    min-height: 28px;
    width: 100%;
    align-items: center;
    text-align: left;
  }
  .chevron {
    display: inline-flex;
    width: 18px;
    margin-left: -2px;
    color: var(--quiet);
  }
  .chevron.open :global(svg) {
    transform: rotate(90deg);
  }
  .theme {
    display: flex;
    width: 100%;
    min-height: 26px;
    align-items: center;
    gap: 8px;
    padding-left: 16px;
    text-align: left;
    line-height: 1.3;
  }
  .theme:hover {
    background: var(--act-tint);
  }
  .meter {
    width: 42px;
    height: 3px;
    flex: none;
    background: linear-gradient(color-mix(in srgb, var(--quiet) 55%, transparent), color-mix(in srgb, var(--quiet) 55%, transparent))
      no-repeat 0 0 / var(--part) 100%;
  }
</style>
