<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import { app } from '@/state/app.svelte';
  import Combobox from '@/parts/Combobox.svelte';
  import { inTreeOrder } from '@/parts/terms';
  import IconPlus from '@lucide/svelte/icons/plus';

  let { add }: { add: (cql: string) => void } = $props();

  let open = $state(false);
  let field = $state('');
  let relation = $state('');
  let first = $state('');
  let second = $state('');
  let fault = $state('');

  const fields = $derived([...app.design!.fields, ...app.design!.system_fields].map((f) => ({ value: f.code, label: f.label })));
  const chosen = $derived(app.field(field));
  const kind = $derived(app.design!.kinds.find((k) => k.value === chosen?.kind));
  const relations = $derived((chosen && app.terms(chosen).some((t) => t.parent !== null) ? kind?.tree_relations : kind?.relations) ?? []);
  const needsValue = $derived(relation !== 'is_empty' && relation !== 'is_filled');
  const terms = $derived(chosen?.kind === 'choice' && relation !== 'contains' ? inTreeOrder(app.terms(chosen)) : []);

  function chooseField(code: string) {
    field = code;
    fault = first = second = '';
    relation = relations[0]?.value ?? '';
  }

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    try {
      const { cql } = await api.criterion(field, relation, relation === 'between' ? [first, second] : needsValue ? [first] : []);
      add(cql);
      open = false;
      field = first = second = fault = '';
    } catch (error) {
      fault = error instanceof ApiError ? (error.fields.value ?? error.message) : 'Try again.';
    }
  }
</script>

<div class="px-3 pb-3">
  {#if !open}
    <button class="link inline-flex items-center gap-1 py-1" onclick={() => (open = true)}><IconPlus size={14} strokeWidth={1.8} />Add a criterion</button>
  {:else}
    <form class="border-t border-hair pt-2" onsubmit={submit}>
      <label class="heading" for="criterion-field">Field</label>
      <Combobox id="criterion-field" items={fields} value={field} label="Field" onchange={chooseField} />
      {#if chosen}
        <label class="heading mt-2 block" for="criterion-relation">Relation</label>
        <select class="input" id="criterion-relation" bind:value={relation}>
          {#each relations as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
        </select>
        {#if needsValue}
          <label class="heading mt-2 block" for="criterion-value">{relation === 'between' ? 'From' : 'Value'}</label>
          {#if chosen.kind === 'yes_no'}
            <select class="input" id="criterion-value" bind:value={first}><option value=""></option><option value="1">Yes</option><option value="0">No</option></select>
          {:else if terms.length > 0}
            <Combobox id="criterion-value" items={terms} value={first} label="Value" onchange={(v) => (first = v)} />
          {:else}
            <input class="input" id="criterion-value" bind:value={first} placeholder={chosen.kind === 'date' ? '2019, 14 Mar 2019, last year' : ''} />
          {/if}
          {#if relation === 'between'}
            <label class="heading mt-2 block" for="criterion-second">To</label>
            <input class="input" id="criterion-second" bind:value={second} />
          {/if}
        {/if}
        {#if fault}<p class="fault mt-1" role="alert">{fault}</p>{/if}
        <div class="mt-3 flex gap-2"><button class="btn btn-main">Add</button><button class="btn" type="button" onclick={() => (open = false)}>Leave</button></div>
      {:else}
        <button class="btn mt-3" type="button" onclick={() => (open = false)}>Leave</button>
      {/if}
    </form>
  {/if}
</div>
