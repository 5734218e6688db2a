<script lang="ts">
  import type { Hold } from '@/api/types';
  import type { HoldForm } from './holdForm.svelte';

  let { form, hold = null }: { form: HoldForm; hold?: Hold | null } = $props();
  const id = $props.id();
</script>

<div class="grid gap-2">
  <div>
    <label class="heading" for={`${id}-name`}>Name</label>
    <input class="input" id={`${id}-name`} data-first bind:value={form.name} maxlength="200" required />
    {#if form.faults.name}<p class="fault" role="alert">{form.faults.name}</p>{/if}
  </div>
  <div>
    <label class="heading" for={`${id}-reason`}>Reason, shown to anyone the hold stops</label>
    <input class="input" id={`${id}-reason`} bind:value={form.reason} maxlength="1000" required />
    {#if form.faults.reason}<p class="fault" role="alert">{form.faults.reason}</p>{/if}
  </div>
  <div class="flex flex-wrap gap-3">
    {#if hold === null}<label class="small">From<input class="input" type="date" bind:value={form.from} /></label>{/if}
    <label class="small">Until, if that is known<input class="input" type="date" bind:value={form.until} /></label>
    {#if hold !== null}<label class="small"
        >Owner<select class="input" bind:value={form.owner}
          >{#if !form.people.some((p) => p.sign_in === hold.owner_sign_in)}<option value={hold.owner_sign_in}>{hold.owner}</option
            >{/if}{#each form.people as p (p.sign_in)}<option value={p.sign_in}>{p.name}</option>{/each}</select
        ></label
      >{/if}
  </div>
  <fieldset>
    <legend class="heading">Custodians, who are told and say that they know of it</legend>
    <div class="grid max-h-44 grid-cols-2 gap-x-4 overflow-y-auto lg:grid-cols-3">
      {#each form.choices(hold) as p (p.sign_in)}<label class="flex min-h-6 items-center gap-1.5"
          ><input type="checkbox" class="check" value={p.sign_in} bind:group={form.custodians} />{p.name}</label
        >{/each}
    </div>
  </fieldset>
  {#if form.faults.form}<p class="fault" role="alert">{form.faults.form}</p>{/if}
</div>
