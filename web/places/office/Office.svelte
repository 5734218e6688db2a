<script lang="ts">
  import { api } from '@/api/client';
  import { moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import IconPlus from '@lucide/svelte/icons/plus';
  import { People, signInOf } from './people.svelte';
  import { focusOn } from '@/parts/focus';
  import { router } from '@/state/router.svelte';
  import GroupsIn from './GroupsIn.svelte';
  import Health from './Health.svelte';
  import PeopleFile from './PeopleFile.svelte';
  import Roles from './Roles.svelte';
  import Rules from './Rules.svelte';
  import Served from './Served.svelte';
  import Why from './Why.svelte';
  import AwayForm from './AwayForm.svelte';
  import Work from './Work.svelte';

  const PARTS = [
    ['', 'People'],
    ['roles', 'Roles'],
    ['groups', 'Groups'],
    ['sign-in', 'Signing in'],
    ['table', 'Import and export'],
    ['work', 'Working days and notices'],
    ['served', 'Other programs'],
    ['health', 'Health'],
  ] as const;
  const part = $derived(router.parts[1] ?? '');

  const people = new People();
  void people.load();

  let filter = $state('');
  let touched = $state(false);
  let leaving = $state(false);
  let heir = $state(0);
  const shown = $derived(
    (people.answer?.people ?? []).filter((p) => `${p.name} ${p.sign_in}`.toLowerCase().includes(filter.trim().toLowerCase())),
  );
  const person = $derived(people.person);
  const inHand = $derived(
    Object.entries({
      'document checked out': ['documents checked out', person?.in_hand?.check_outs],
      'document waiting in intake': ['documents waiting in intake', person?.in_hand?.waiting],
      'pull list': ['pull lists', person?.in_hand?.lists],
      'shared search': ['shared searches', person?.in_hand?.searches],
    } as Record<string, [string, number | undefined]>)
      .filter(([, [, n]]) => (n ?? 0) > 0)
      .map(([one, [many, n]]) => plural(n!, one, many)),
  );
  const role = (value: string) => people.answer?.roles.find((r) => r.code === value)?.name ?? value;

  function choose(id: number) {
    people.choose(id);
    touched = leaving = false;
    heir = 0;
    // Who makes a person types the name first.
    if (id === 0) void focusOn('person-name');
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    const isNew = !person;
    if ((await people.save()) && !isNew) app.say('Saved. It is in force at once.');
  }
  async function putOut() {
    if (person && (await people.act(() => api.putOut(person.id, heir || null)))) {
      leaving = false;
      app.say(`${person.name} is out of use.`);
    }
  }
</script>

<div class="flex h-full flex-col">
  <nav class="flex flex-none flex-wrap gap-x-5 border-b border-hair px-4 py-2" aria-label="Office">
    {#each PARTS as [path, name] (path)}<a
        class="min-h-6 no-underline"
        class:font-semibold={part === path}
        aria-current={part === path ? 'page' : undefined}
        href={path ? `/office/${path}` : '/office'}>{name}</a
      >{/each}
  </nav>
  {#if part !== ''}
    <section class="min-h-0 flex-1 overflow-y-auto bg-sheet px-8 py-4" aria-label={PARTS.find(([path]) => path === part)?.[1] ?? 'Office'}>
      <h1 class="border-b border-hair pb-2 text-[22px]">{PARTS.find(([path]) => path === part)?.[1] ?? 'Page not found'}</h1>
      {#if !people.answer}<p class="quiet py-3">{people.fault || 'Loading…'}</p>
      {:else if part === 'roles'}<Roles {people} />
      {:else if part === 'groups'}<GroupsIn {people} />
      {:else if part === 'sign-in'}<Rules {people} />
      {:else if part === 'table'}<PeopleFile {people} />
      {:else if part === 'work'}<Work />
      {:else if part === 'served'}<Served />
      {:else if part === 'health'}<Health />{/if}
    </section>
  {:else}
    <div class="office">
      <section class="flex min-h-0 flex-col border-r border-hair" aria-label="People">
        <div class="flex items-center gap-2 px-4 pt-4 pb-2">
          <h1 class="flex-1 text-[22px]">People</h1>
          <button class="btn" onclick={() => choose(0)}><IconPlus size={14} strokeWidth={1.8} />New person</button>
        </div>
        <div class="px-4 pb-2">
          <input class="input" type="search" aria-label="Search people" placeholder="Search people" bind:value={filter} />
        </div>
        <ul class="min-h-0 flex-1 overflow-y-auto pb-4">
          {#each shown as p (p.id)}
            <li>
              <button
                class="entry"
                class:here={p.id === people.chosen}
                aria-current={p.id === people.chosen ? 'true' : undefined}
                onclick={() => choose(p.id)}
              >
                <span class="block truncate text-ink"
                  >{p.name}{#if p.out_of_use_at}<span class="small quiet">&ensp;out of use</span>{:else if p.has_code}<span
                      class="small quiet">&ensp;has a code</span
                    >{/if}</span
                >
                <span class="small quiet flex"><span class="mono flex-1 truncate">{p.sign_in}</span>{role(p.role)}</span>
              </button>
            </li>
          {:else}<li class="quiet px-4 py-3">{people.answer ? `Nobody is called “${filter}”.` : 'Loading…'}</li>{/each}
        </ul>
      </section>
      <section class="min-h-0 overflow-y-auto bg-sheet px-8 py-4" aria-label="Person">
        {#if people.chosen === null}
          <p class="quiet py-4">{people.fault || 'Choose somebody on the left, or make a new person.'}</p>
        {:else}
          <h2 class="border-b border-hair pb-3 text-[22px]">{person?.name ?? 'New person'}</h2>
          {#if people.code}
            <div class="mt-4 mb-3 max-w-xl border-l-2 border-act pl-4" role="status">
              <p>Give {people.code.name} this one-time code. It is shown only now, and is good once within seven days.</p>
              <p class="mono my-2 text-[20px] select-all">{people.code.code}</p>
              <p class="small quiet">
                They open <span class="mono select-all">{people.code.address}</span> and choose a password of their own.
              </p>
              {#if people.code.mailed_to}<p class="small mt-1">
                  Both were mailed to {people.code.mailed_to} (<a href="/lists/outbox">Outbox</a>).
                </p>{/if}
            </div>
          {/if}
          <form class="max-w-xl" onsubmit={save}>
            <div class="py-2">
              <label class="heading" for="person-name">Name</label>
              <input
                class="input"
                id="person-name"
                autocomplete="off"
                maxlength="200"
                value={people.draft.name}
                aria-invalid={people.faults.name ? true : undefined}
                oninput={(e) => {
                  people.draft.name = e.currentTarget.value;
                  if (!person && !touched) people.draft.sign_in = signInOf(people.draft.name);
                }}
              />
              {#if people.faults.name}<p class="fault" role="alert">{people.faults.name}</p>{/if}
            </div>
            <div class="py-2">
              <label class="heading" for="person-sign-in">Sign-in name</label>
              <input
                class="input mono"
                id="person-sign-in"
                autocomplete="off"
                maxlength="60"
                disabled={!!person}
                value={people.draft.sign_in}
                aria-invalid={people.faults.sign_in ? true : undefined}
                oninput={(e) => {
                  touched = true;
                  people.draft.sign_in = e.currentTarget.value;
                }}
              />
              {#if people.faults.sign_in}<p class="fault" role="alert">{people.faults.sign_in}</p>{:else if !person}<p class="small quiet">
                  It stays once the person is made.
                </p>{/if}
            </div>
            <div class="py-2">
              <label class="heading" for="person-mail">E-mail address</label>
              <input
                class="input"
                id="person-mail"
                type="email"
                autocomplete="off"
                maxlength="200"
                value={people.draft.mail ?? ''}
                aria-invalid={people.faults.mail ? true : undefined}
                oninput={(e) => (people.draft.mail = e.currentTarget.value.trim() || null)}
              />
              {#if people.faults.mail}<p class="fault" role="alert">{people.faults.mail}</p>{:else}<p class="small quiet">
                  One-time codes are mailed to it
                </p>{/if}
            </div>
            <div class="py-2">
              <label class="heading" for="person-role">Role</label>
              <select class="input" id="person-role" bind:value={people.draft.role}
                >{#each people.answer?.roles ?? [] as r (r.code)}<option value={r.code}>{r.name}</option>{/each}</select
              >
            </div>
            {#if people.answer?.directory}<div class="py-2">
                <label class="heading" for="person-known-by">Password</label>
                <select class="input" id="person-known-by" bind:value={people.draft.known_by}
                  ><option value="brenvic">chosen here</option><option value="directory">in the directory of the office</option></select
                >
              </div>{/if}
            <fieldset class="pt-3 pb-2">
              <legend class="heading">Groups</legend>
              <p class="flex flex-wrap gap-x-5 gap-y-1 py-1">
                {#each people.answer?.groups ?? [] as g (g)}<label class="flex items-center gap-2"
                    ><input type="checkbox" class="check" value={g} bind:group={people.draft.groups} />{g}</label
                  >{:else}<span class="quiet"
                    >There is no group yet. The records librarian makes groups in Design, with what they may see.</span
                  >{/each}
              </p>
            </fieldset>
            {#if people.fault}<p class="fault" role="alert">{people.fault}</p>{/if}
            <p class="mt-2 flex flex-wrap gap-2">
              <button class="btn btn-main" disabled={people.busy || !people.changed || people.draft.name.trim() === ''}
                >{person ? 'Save' : 'Create person'}</button
              >
              {#if person && !person.out_of_use_at}
                <button class="btn" type="button" disabled={people.busy} onclick={() => people.act(() => api.newCode(person.id))}
                  >New one-time code</button
                >
                {#if person.sign_in !== app.person?.sign_in}<button
                    class="btn"
                    type="button"
                    aria-expanded={leaving}
                    onclick={() => (leaving = !leaving)}>Put out of use…</button
                  >{/if}
              {:else if person}<button
                  class="btn"
                  type="button"
                  disabled={people.busy}
                  onclick={() => people.act(() => api.bringPersonBack(person.id))}>Bring back</button
                >{/if}
            </p>
          </form>
          {#if person && leaving}
            <div class="mt-4 max-w-xl border-l-2 border-act pl-4" role="group" aria-label="Put out of use">
              <p>{person.name} cannot sign in any more, and is signed out now. The history keeps the name.</p>
              {#if inHand.length > 0}
                <p class="mt-1">In hand: {inHand.join(', ')}.</p>
                <label class="heading mt-2 block" for="heir">Handed on to</label>
                <select class="input" id="heir" bind:value={heir}
                  ><option value={0}>choose somebody</option>{#each people.heirs(person) as p (p.id)}<option value={p.id}
                      >{p.name}, {role(p.role)}</option
                    >{/each}</select
                >
              {:else}<p class="quiet mt-1">Nothing is in hand that somebody would have to take over.</p>{/if}
              <p class="mt-2 flex gap-2">
                <button class="btn btn-main" disabled={people.busy || (inHand.length > 0 && !heir)} onclick={putOut}>Put out of use</button
                ><button class="btn" onclick={() => (leaving = false)}>Cancel</button>
              </p>
            </div>
          {/if}
          {#if person && !person.out_of_use_at && (person.sessions > 0 || person.has_factor)}<p
              class="mt-5 flex flex-wrap items-baseline gap-x-4 border-t border-hair pt-2"
            >
              {#if person.sessions > 0}<span>{plural(person.sessions, 'session', 'sessions')}</span><button
                  class="link"
                  disabled={people.busy}
                  onclick={() => people.act(() => api.endSessionsOf(person.id))}>End all sessions</button
                >{/if}
              {#if person.has_factor}<span>Has a second factor</span><button
                  class="link"
                  disabled={people.busy}
                  onclick={() => people.act(() => api.turnOffFactorOf(person.id))}>Turn it off</button
                >{/if}
            </p>{/if}
          {#if person && !person.out_of_use_at}{#key person.id}
              <h2 class="mt-6 border-b border-hair pb-1 text-[18px]">Manager and stand-in</h2>
              <div class="max-w-sm py-1">
                <AwayForm managed load={() => api.workOf(person.id)} save={(work) => api.setWork(person.id, work)} />
              </div>
              <Why {person} />
            {/key}{/if}
          {#if person}<p class="small quiet mt-5 border-t border-hair pt-2">
              {person.out_of_use_at ? `Out of use since ${moment(person.out_of_use_at)}. ` : ''}{person.last_sign_in_at
                ? `Last signed in ${moment(person.last_sign_in_at)}.`
                : 'Has not signed in yet.'}
            </p>{/if}
        {/if}
      </section>
    </div>
  {/if}
</div>

<style>
  .office {
    display: grid;
    min-height: 0;
    flex: 1;
    grid-template-columns: 300px minmax(0, 1fr);
  }
  .entry {
    display: block;
    width: 100%;
    padding: 6px 16px;
    border-top: 1px solid color-mix(in srgb, var(--hair) 55%, transparent);
    text-align: left;
  }
  .entry:hover {
    background: color-mix(in srgb, var(--act-tint) 45%, transparent);
  }
  .entry.here {
    background: var(--sheet);
    box-shadow: inset 3px 0 0 var(--act);
  }
</style>
