<script lang="ts">
  import { app } from '@/state/app.svelte';
  import IconX from '@lucide/svelte/icons/x';
  import type { Snippet } from 'svelte';
  import { draft } from './draft.svelte';
  import { PARTY_KINDS, type Party } from './procedure';

  interface Props {
    label: string;
    party: Party;
    onchange: (party: Party) => void;
    onremove?: () => void;
    children?: Snippet;
  }
  let { label, party, onchange, onremove, children }: Props = $props();

  const people = $derived(app.design!.fields.filter((field) => field.kind === 'person'));
  const first: Record<Party['kind'], () => string> = {
    group: () => draft.groups[0] ?? '',
    person: () => '',
    field: () => people[0]?.code ?? '',
    dossier: () => people[0]?.code ?? '',
    manager: () => 'filer',
  };
  const kinds = Object.entries(PARTY_KINDS) as [Party['kind'], string][];
</script>

<div class="flex items-center gap-2 border-t border-hair py-0.5">
  <select
    class="input"
    aria-label={`${label}: who`}
    value={party.kind}
    onchange={(e) => {
      const kind = e.currentTarget.value as Party['kind'];
      onchange({ kind, value: first[kind]() });
    }}
    >{#each kinds as [kind, says] (kind)}<option value={kind}>{says}</option>{/each}</select
  >
  {#if party.kind === 'group'}
    <select
      class="input"
      aria-label={`${label}: group`}
      value={party.value}
      onchange={(e) => onchange({ ...party, value: e.currentTarget.value })}
      >{#each draft.groups as group (group)}<option>{group}</option>{/each}</select
    >
  {:else if party.kind === 'person'}
    <input
      class="input"
      aria-label={`${label}: sign-in name`}
      placeholder="sign-in name"
      value={party.value}
      autocomplete="off"
      oninput={(e) => onchange({ ...party, value: e.currentTarget.value })}
    />
  {:else}
    <select
      class="input"
      aria-label={`${label}: field`}
      value={party.value}
      onchange={(e) => onchange({ ...party, value: e.currentTarget.value })}
      >{#if party.kind === 'manager'}<option value="filer">who filed it</option>{/if}{#each people as field (field.code)}<option
          value={field.code}>{party.kind === 'manager' ? `whom ${field.label} names` : field.label}</option
        >{/each}</select
    >
  {/if}
  {@render children?.()}
  {#if onremove}<button class="icon-btn" type="button" aria-label={`Remove ${label}`} title="Remove" onclick={onremove}
      ><IconX size={14} strokeWidth={1.7} /></button
    >{/if}
</div>
