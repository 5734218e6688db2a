<script lang="ts">
  import { api } from '@/api/client';
  import { plural } from '@/parts/format';
  import { focusOn } from '@/parts/focus';
  import type { People } from './people.svelte';

  /** The roles of the office: what each may do, and how many have it. */
  let { people }: { people: People } = $props();

  let chosen = $state<string | null>(null);
  let name = $state('');
  let rights = $state<string[]>([]);
  const roles = $derived(people.answer?.roles ?? []);
  const role = $derived(roles.find((r) => r.code === chosen));
  const had = (code: string) => (people.answer?.people ?? []).filter((p) => p.role === code).length;
  const changed = $derived(!role || role.name !== name.trim() || [...role.rights].sort().join() !== [...rights].sort().join());

  function choose(code: string) {
    chosen = code;
    people.faults = {};
    people.fault = '';
    const of = roles.find((r) => r.code === code);
    name = of?.name ?? '';
    rights = [...(of?.rights ?? ['read'])];
    if (!of) void focusOn('role-name');
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    const before = roles.map((r) => r.code);
    if (await people.act(() => (role ? api.changeRole(role.code, name.trim(), rights) : api.addRole(name.trim(), rights)))) {
      choose(role?.code ?? roles.find((r) => !before.includes(r.code))?.code ?? '');
    }
  }
  async function remove() {
    if (role && (await people.act(() => api.removeRole(role.code)))) chosen = null;
  }
</script>

<p class="quiet max-w-xl py-3">A role says what somebody may do. With which documents, their groups say.</p>
<table class="max-w-3xl">
  <thead
    ><tr class="heading text-left"
      ><th class="py-1 pr-6 font-normal">Role</th><th class="pr-6 font-normal">People</th><th class="font-normal">Rights</th></tr
    ></thead
  >
  <tbody>
    {#each roles as r (r.code)}
      <tr class="border-t border-hair align-baseline">
        <td class="py-1 pr-6 whitespace-nowrap"
          ><button class="link" aria-expanded={chosen === r.code} onclick={() => choose(r.code)}>{r.name}</button></td
        >
        <td class="pr-6 tabular-nums">{had(r.code)}</td>
        <td class="small quiet"
          >{(people.answer?.rights ?? [])
            .filter((of) => r.rights.includes(of.value))
            .map((of) => of.label.toLowerCase())
            .join(', ') || 'none'}</td
        >
      </tr>
    {/each}
  </tbody>
</table>
<p class="py-3"><button class="btn" onclick={() => choose('')}>New role</button></p>
{#if chosen !== null}
  <form class="max-w-xl border-l-2 border-act pl-4" onsubmit={save} aria-label={role ? role.name : 'New role'}>
    <label class="heading" for="role-name">Name</label>
    <input
      class="input"
      id="role-name"
      maxlength="60"
      autocomplete="off"
      bind:value={name}
      aria-invalid={people.faults.name ? true : undefined}
    />
    {#if people.faults.name}<p class="fault" role="alert">{people.faults.name}</p>{/if}
    <fieldset class="pt-3">
      <legend class="heading">Rights</legend>
      {#each people.answer?.rights ?? [] as r (r.value)}
        <label class="flex items-baseline gap-2 py-1"
          ><input type="checkbox" class="check translate-y-0.5" value={r.value} bind:group={rights} /><span
            >{r.label}<span class="small quiet block">{r.says}</span></span
          ></label
        >
      {/each}
    </fieldset>
    {#if people.fault}<p class="fault" role="alert">{people.fault}</p>{/if}
    {#if role && changed && had(role.code) > 0}<p class="small py-1">
        It changes what {plural(had(role.code), 'person', 'people')} may do, at once.
      </p>{/if}
    <p class="mt-2 flex gap-2">
      <button class="btn btn-main" disabled={people.busy || name.trim() === '' || !changed}>{role ? 'Save' : 'Create role'}</button>
      {#if role}<button
          class="btn"
          type="button"
          disabled={people.busy || had(role.code) > 0}
          title={had(role.code) > 0 ? 'Somebody has it' : undefined}
          onclick={remove}>Delete role</button
        >{/if}
      <button class="btn" type="button" onclick={() => (chosen = null)}>Cancel</button>
    </p>
  </form>
{/if}
