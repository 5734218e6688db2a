<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import type { Answer } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { count } from '@/parts/format';
  import { widget } from '@/parts/kinds';
  import { app } from '@/state/app.svelte';
  import { choicesOf } from '@/state/choices.svelte';

  /** A designed search form; what is filled in becomes lines of the ledger. */
  let { answer, add }: { answer: Answer | null; add: (cql: string[]) => void } = $props();

  let code = $state('');
  let values = $state<Record<string, [string, string]>>({});
  let faults = $state<Record<string, string>>({});
  const form = $derived(app.design!.forms.find((f) => f.code === code));

  const kindOf = (field: string) => app.kind(app.field(field));
  function relation(field: string, given: string): string {
    if (given) return given;
    return kindOf(field)?.is_exact ? 'is' : 'contains';
  }
  /** What may be chosen, with how many of the documents found have it. */
  function choices(field: string) {
    const counts = new Map(answer?.facets.find((f) => f.field === field)?.values.map((v) => [v.value, v.count]));
    const all = choicesOf(app.field(field)!, { retired: true });
    return { ...all, items: all.items.map((t) => ({ ...t, hint: counts.size > 0 ? count(counts.get(t.value) ?? 0) : t.hint })) };
  }
  const set = (field: string, i: 0 | 1, value: string) => {
    const now = values[field] ?? ['', ''];
    values[field] = i === 0 ? [value, now[1]] : [now[0], value];
  };

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    if (!form) return;
    faults = {};
    const made: string[] = [];
    if (form.libraries.length > 0) made.push(form.libraries.map((l) => `library == "${l}"`).join(' or '));
    if (form.types.length > 0) made.push(form.types.map((t) => `type == "${t}"`).join(' or '));
    for (const { code: field, relation: given } of form.fields) {
      const [first, second] = values[field] ?? ['', ''];
      if (first.trim() === '' && second.trim() === '') continue;
      const both = second.trim() !== '' && first.trim() !== '';
      try {
        made.push(
          (
            await api.criterion(
              field,
              both ? 'between' : first.trim() === '' ? 'at_most' : relation(field, given === 'between' ? 'at_least' : given),
              both ? [first, second] : [first.trim() === '' ? second : first],
            )
          ).cql,
        );
      } catch (error) {
        faults[field] = error instanceof ApiError ? (error.fields.value ?? error.message) : 'The line could not be added. Try again.';
      }
    }
    if (Object.keys(faults).length > 0) return;
    add(made);
    values = {};
    code = '';
  }
</script>

{#if app.design!.forms.length > 0}
  <div class="px-3 pb-3">
    <label class="small flex items-center gap-2"
      ><span class="quiet whitespace-nowrap">Search form</span>
      <select class="input" style="min-height:28px" bind:value={code}>
        <option value="">none</option>
        {#each app.design!.forms as f (f.code)}<option value={f.code}>{f.name}</option>{/each}
      </select>
    </label>
    {#if form}
      <form class="mt-1 border-t border-hair pt-1" onsubmit={submit} aria-label={form.name}>
        {#each form.fields as { code: field } (field)}
          {@const kind = kindOf(field)}
          {@const Widget = widget(kind?.widget)}
          <div class="py-1">
            <label class="heading" for={`form-${field}`}>{app.label(field)}</label>
            {#if kind?.options.includes('vocabulary')}
              {@const { items, source } = choices(field)}
              <Combobox
                id={`form-${field}`}
                label={app.label(field)}
                placeholder="any"
                {items}
                {source}
                value={values[field]?.[0] ?? ''}
                onchange={(v) => set(field, 0, v)}
              />
            {:else if kind?.is_ordered}
              <div class="flex items-center gap-2">
                <input
                  class="input"
                  id={`form-${field}`}
                  value={values[field]?.[0] ?? ''}
                  placeholder="is, or from"
                  autocomplete="off"
                  oninput={(e) => set(field, 0, e.currentTarget.value)}
                /><input
                  class="input"
                  aria-label={`${app.label(field)}, to`}
                  placeholder="to"
                  value={values[field]?.[1] ?? ''}
                  autocomplete="off"
                  oninput={(e) => set(field, 1, e.currentTarget.value)}
                />
              </div>
            {:else}
              <Widget
                use="ask"
                field={app.field(field)!}
                id={`form-${field}`}
                label={app.label(field)}
                none="any"
                value={values[field]?.[0] ?? ''}
                onchange={(v) => set(field, 0, v)}
              />
            {/if}
            {#if faults[field]}<p class="fault" role="alert">{faults[field]}</p>{/if}
          </div>
        {/each}
        <p class="mt-1 flex gap-2">
          <button class="btn btn-main">Find</button><button class="btn" type="button" onclick={() => (code = '')}>Cancel</button>
        </p>
      </form>
    {/if}
  </div>
{/if}
