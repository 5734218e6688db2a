<script lang="ts">
  import type { RetentionRule as Rule } from '@/api/types';
  import { app } from '@/state/app.svelte';

  interface Props {
    rule: Rule | null | undefined;
    /** What holds without a rule of its own. */
    none: string;
    fault?: string;
    onchange: (rule: Rule | null) => void;
  }
  /** How long documents are kept, from when on, and what is done then: one rule, read as a sentence. */
  let { rule, none, fault = '', onchange }: Props = $props();
  const id = $props.id();

  const dates = $derived(app.design!.fields.filter((f) => f.kind === 'date' || f.kind === 'date_range'));
  const references = $derived(app.design!.fields.filter((f) => f.kind === 'reference'));
  let more = $state(false);
  const hasMore = $derived(!!rule && (!!rule.authority || !!rule.restarts?.length || !!rule.lifted_by || (rule.from ?? 'day') !== 'day'));

  const set = (change: Partial<Rule>) => onchange({ ...rule!, ...change });
  const whole = (text: string, most: number) => Math.min(most, Math.max(0, Number.parseInt(text) || 0));
  const firstOf: Record<string, () => string | null> = { superseded: () => references[0]?.code ?? null };
</script>

<fieldset class="py-1.5" aria-describedby={fault ? `${id}-fault` : undefined}>
  <legend class="heading">Retention</legend>
  <label class="flex items-center gap-1.5"
    ><input
      type="checkbox"
      class="check"
      checked={!!rule}
      onchange={(e) => onchange(e.currentTarget.checked ? { after: dates[0]?.code ?? 'created', years: 10, action: 'review' } : null)}
    />{rule ? 'Has a rule of its own:' : none}</label
  >
  {#if rule}
    <div class="mt-1 flex flex-wrap items-center gap-2">
      <select
        class="input"
        style="width:auto"
        aria-label="What is done when it is due"
        value={rule.action}
        onchange={(e) => set({ action: e.currentTarget.value as Rule['action'] })}
        ><option value="review">review</option><option value="destroy">destroy</option><option value="hand_over"
          >hand over to an archive</option
        ><option value="keep">keep permanently</option></select
      >
      {#if rule.action !== 'keep'}
        <input
          class="input num"
          style="width:56px"
          inputmode="numeric"
          aria-label="Years"
          value={rule.years}
          onchange={(e) => set({ years: whole(e.currentTarget.value, 999) })}
        /><span>years</span>
        <input
          class="input num"
          style="width:48px"
          inputmode="numeric"
          aria-label="Months"
          value={rule.months ?? 0}
          onchange={(e) => set({ months: whole(e.currentTarget.value, 11) })}
        /><span>months after</span>
        <select
          class="input"
          style="width:auto"
          aria-label="Counted from"
          value={rule.after}
          onchange={(e) => set({ after: e.currentTarget.value, of: firstOf[e.currentTarget.value]?.() ?? null })}
          ><optgroup label="Events"
            ><option value="created">filing</option><option value="dossier_closed">the closing of the dossier</option><option
              value="procedure_ended">the end of a procedure</option
            ><option value="superseded">being superseded by a newer one</option></optgroup
          ><optgroup label="Dates"
            >{#each dates as f (f.code)}<option value={f.code}>{f.label}</option>{/each}</optgroup
          ></select
        >
        {#if rule.after === 'dossier_closed'}
          <select
            class="input"
            style="width:auto"
            aria-label="Dossier kind"
            value={rule.of ?? ''}
            onchange={(e) => set({ of: e.currentTarget.value || null })}
            ><option value="">of any kind</option>{#each app.design!.dossier_kinds as kind (kind.code)}<option value={kind.code}
                >{kind.name}</option
              >{/each}</select
          >
        {:else if rule.after === 'procedure_ended'}
          <select
            class="input"
            style="width:auto"
            aria-label="Procedure"
            value={rule.of ?? ''}
            onchange={(e) => set({ of: e.currentTarget.value || null })}
            ><option value="">any procedure</option>{#each app.design!.procedures ?? [] as one (one.code)}<option value={one.code}
                >{one.name}</option
              >{/each}</select
          >
        {:else if rule.after === 'superseded'}
          <select
            class="input"
            style="width:auto"
            aria-label="Named in the field"
            value={rule.of ?? ''}
            onchange={(e) => set({ of: e.currentTarget.value || null })}
            ><option value="">named in…</option>{#each references as f (f.code)}<option value={f.code}>named in {f.label}</option
              >{/each}</select
          >
        {/if}
      {/if}
    </div>
    {#if more || hasMore}
      <div class="mt-1.5 grid gap-1.5">
        <div>
          <label class="heading" for={`${id}-authority`}>Authority</label>
          <input
            id={`${id}-authority`}
            class="input"
            maxlength="500"
            value={rule.authority ?? ''}
            placeholder="The law, contract or decision that the rule rests on"
            oninput={(e) => set({ authority: e.currentTarget.value })}
          />
        </div>
        {#if rule.action !== 'keep'}
          <div class="flex flex-wrap gap-2">
            <label class="small"
              >Counted from<select
                class="input"
                value={rule.from ?? 'day'}
                onchange={(e) => set({ from: e.currentTarget.value as NonNullable<Rule['from']> })}
                ><option value="day">the day itself</option><option value="year">the end of its year</option><option value="fiscal_year"
                  >the end of its fiscal year</option
                ></select
              ></label
            >
            <label class="small"
              >Begun anew by a later<select
                class="input"
                value={rule.restarts?.[0] ?? ''}
                onchange={(e) => set({ restarts: e.currentTarget.value ? [e.currentTarget.value] : [] })}
                ><option value="">no other date</option>{#each dates as f (f.code)}<option value={f.code}>{f.label}</option>{/each}</select
              ></label
            >
            <label class="small"
              >Exempt while there is a value in<select
                class="input"
                value={rule.lifted_by?.field ?? ''}
                onchange={(e) => set({ lifted_by: e.currentTarget.value ? { field: e.currentTarget.value, values: [] } : null })}
                ><option value="">no field</option>{#each app.design!.fields as f (f.code)}<option value={f.code}>{f.label}</option
                  >{/each}</select
              ></label
            >
            {#if rule.lifted_by}
              <label class="small"
                >Only if it is<input
                  class="input"
                  value={(rule.lifted_by.values ?? []).join(', ')}
                  placeholder="any value"
                  onchange={(e) =>
                    set({
                      lifted_by: {
                        field: rule.lifted_by!.field,
                        values: e.currentTarget.value
                          .split(',')
                          .map((v) => v.trim())
                          .filter(Boolean),
                      },
                    })}
                /></label
              >
            {/if}
          </div>
        {/if}
      </div>
    {:else}
      <button class="link small mt-1" type="button" onclick={() => (more = true)}>Authority, and what begins it anew or lifts it…</button>
    {/if}
  {/if}
  {#if fault}<p class="fault" id={`${id}-fault`}>{fault}</p>{/if}
</fieldset>
