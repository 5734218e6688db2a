<script lang="ts">
  import { app } from '@/state/app.svelte';
  import IconX from '@lucide/svelte/icons/x';
  import PartyRow from './PartyRow.svelte';
  import { ACT_KINDS, newAct, type ProcedureAct } from './procedure';

  interface Props {
    act: ProcedureAct;
    number: number;
    onchange: (act: ProcedureAct) => void;
    onremove: () => void;
  }
  let { act, number, onchange, onremove }: Props = $props();
  const set = (change: Partial<ProcedureAct>) => onchange({ ...act, ...change });
  const kinds = Object.entries(ACT_KINDS) as [ProcedureAct['kind'], string][];
  const label = $derived(`Act ${number}`);
</script>

{#snippet field(says: string)}
  <select class="input" aria-label={`${label}: ${says}`} value={act.field ?? ''} onchange={(e) => set({ field: e.currentTarget.value })}
    ><option value="">{says}…</option>{#each app.design!.fields as f (f.code)}<option value={f.code}>{f.label}</option>{/each}</select
  >
{/snippet}
{#snippet kind()}
  <select
    class="input"
    aria-label={`${label}: dossier kind`}
    value={act.dossier_kind ?? ''}
    onchange={(e) => set({ dossier_kind: e.currentTarget.value })}
    ><option value="">{act.kind === 'dossier' ? 'of any kind' : 'kind of dossier…'}</option
    >{#each app.design!.dossier_kinds as d (d.code)}<option value={d.code}>{d.name}</option>{/each}</select
  >
{/snippet}
{#snippet words(says: string, rows: number)}
  <textarea
    class="input"
    {rows}
    placeholder={says}
    aria-label={`${label}: ${says}`}
    value={act.text ?? ''}
    oninput={(e) => set({ text: e.currentTarget.value })}></textarea>
{/snippet}

<div class="border-t border-hair py-1">
  <div class="flex items-center gap-2">
    <span class="num quiet small w-4">{number}</span>
    <select
      class="input"
      aria-label={`${label}: what is done`}
      value={act.kind}
      onchange={(e) => onchange(newAct(e.currentTarget.value as ProcedureAct['kind']))}
      >{#each kinds as [code, says] (code)}<option value={code}>{says}</option>{/each}</select
    >
    <button class="icon-btn" type="button" aria-label={`Remove act ${number}`} title="Remove" onclick={onremove}
      ><IconX size={14} strokeWidth={1.7} /></button
    >
  </div>
  <div class="grid gap-1 pt-1 pl-6">
    {#if act.kind === 'value'}
      {@render field('field')}{@render words('value, like {today} or {decision}; empty removes it', 1)}
    {:else if act.kind === 'stamp'}{@render words('words of the stamp; the decision if empty', 1)}
    {:else if act.kind === 'dossier'}{@render field('by which its dossier is found')}{@render kind()}
    {:else if act.kind === 'new_dossier'}{@render kind()}
    {:else if act.kind === 'notice'}
      <PartyRow {label} party={act.to ?? { kind: 'group', value: '' }} onchange={(to) => set({ to })} />
      {@render words('what they are told, with fields like {title}', 2)}
    {:else if act.kind === 'mail'}
      <input
        class="input"
        placeholder="an address, sender, or a field as {'{contact}'}"
        aria-label={`${label}: address`}
        value={act.address ?? ''}
        oninput={(e) => set({ address: e.currentTarget.value })}
      />
      <input
        class="input"
        placeholder="subject"
        aria-label={`${label}: subject`}
        value={act.subject ?? ''}
        oninput={(e) => set({ subject: e.currentTarget.value })}
      />
      {@render words('text, with fields like {title}, {decision}, {decided_by}', 3)}
    {:else if act.kind === 'begin'}
      <select
        class="input"
        aria-label={`${label}: procedure`}
        value={act.procedure ?? ''}
        onchange={(e) => set({ procedure: e.currentTarget.value })}
        ><option value="">procedure…</option>{#each app.design!.procedures as p (p.code)}<option value={p.code}>{p.name}</option
          >{/each}</select
      >
    {/if}
  </div>
</div>
