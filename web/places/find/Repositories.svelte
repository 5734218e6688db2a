<script lang="ts">
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { remotes } from '@/state/remotes.svelte';

  interface Props {
    /** The remote repositories that are asked. */
    outside: string[];
    /** The one whose records are listed; empty for what is here. */
    from: string;
    here: number | null;
    choose: (code: string) => void;
  }
  /** Where the search found how much: here, and in each repository elsewhere that has answered. */
  let { outside, from, here, choose }: Props = $props();

  const TROUBLE = { found: '', slow: 'too slow', unreachable: 'no answer', refused: 'not searched', busy: 'busy' };
</script>

<div class="flex flex-none flex-wrap gap-x-1 border-b border-hair bg-paper px-3" role="group" aria-label="Repositories">
  <button class="part small" aria-pressed={from === ''} onclick={() => choose('')}
    >Here <span class="num">{here === null ? '…' : count(here)}</span></button
  >
  {#each outside as code (code)}
    {@const answer = remotes.answers[code]}
    <button class="part small" aria-pressed={from === code} title={answer?.says || undefined} onclick={() => choose(code)}>
      {app.design!.remote.find((r) => r.code === code)?.name}
      <span aria-live="polite"
        >{#if !answer}<span class="quiet">asking…</span>{:else if answer.total !== null}<span class="num">{count(answer.total)}</span
          >{#if answer.left_out.some((l) => !l.asked) && answer.total > 0}<span class="quiet">, some lines not used</span>{/if}{:else}<span
            class="text-rust">{TROUBLE[answer.state]}</span
          >{/if}</span
      >
    </button>
  {/each}
</div>

<style>
  .part {
    min-height: 28px;
    padding: 3px 10px;
    color: var(--quiet);
    border-bottom: 2px solid transparent;
  }
  .part[aria-pressed='true'] {
    color: var(--ink);
    border-bottom-color: var(--act);
    font-weight: 600;
  }
  .part:hover {
    color: var(--act);
  }
</style>
