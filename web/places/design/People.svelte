<script lang="ts">
  import { api } from '@/api/client';
  import type { PeopleAnswer, Sight } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import { addressOf, emptySearch } from '@/state/search';
  import { app } from '@/state/app.svelte';
  import IconX from '@lucide/svelte/icons/x';

  let people = $state.raw<PeopleAnswer | null>(null);
  let chosen = $state(0);
  let sight = $state.raw<Sight | null>(null);
  let name = $state('');
  void api.people().then((got) => (people = got));

  async function act(what: () => Promise<PeopleAnswer>) {
    try {
      people = await what();
      name = '';
      if (chosen) void look(chosen);
    } catch (error) {
      app.fail(error, 'Nothing was changed. Try again.');
    }
  }
  async function look(id: number) {
    chosen = id;
    sight = null;
    const got = await api.sight(id);
    if (chosen === id) sight = got;
  }
  const roles: Record<string, string> = {
    librarian: 'records librarian',
    clerk: 'intake clerk',
    reader: 'reader',
    manager: 'records manager',
  };
  const asThem = (change: Partial<typeof emptySearch>) =>
    `${addressOf({ ...emptySearch, ...change })}${change.criteria || change.view ? '&' : '?'}as_person=${sight!.person.sign_in}`;
</script>

<div class="h-full overflow-y-auto px-6 py-3">
  <h2 class="border-b border-hair pb-3 text-[22px]">People and groups</h2>
  {#if people}
    <p class="quiet my-2 max-w-prose">
      Changes here take effect at once; they are not part of the draft. What groups may see stands with libraries and access rules.
    </p>
    <table class="w-full max-w-[720px]">
      <thead
        ><tr class="heading text-left"
          ><th class="py-1 font-normal">Person</th><th class="font-normal">Role</th>{#each people.groups as g (g.id)}<th
              class="px-1 text-center font-normal">{g.name}</th
            >{/each}<th class="w-28"><span class="sr-only">Look as</span></th></tr
        ></thead
      >
      <tbody>
        {#each people.people as person (person.id)}
          <tr class="border-t border-hair">
            <td class="py-1.5">{person.name} <span class="mono quiet small">{person.sign_in}</span></td><td class="quiet"
              >{roles[person.role]}</td
            >
            {#each people.groups as g (g.id)}
              <td class="text-center"
                ><input
                  type="checkbox"
                  class="check"
                  aria-label={`${person.name} is in ${g.name}`}
                  checked={person.groups.includes(g.name)}
                  onchange={(e) =>
                    act(() =>
                      api.setGroups(
                        person.id,
                        e.currentTarget.checked ? [...person.groups, g.name] : person.groups.filter((n) => n !== g.name),
                      ),
                    )}
                /></td
              >
            {/each}
            <td class="text-right"
              ><button class="link small" aria-pressed={chosen === person.id} onclick={() => look(person.id)}>What they see</button></td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    <form
      class="mt-4 flex max-w-md items-end gap-3"
      onsubmit={(e) => {
        e.preventDefault();
        void act(() => api.addGroup(name.trim()));
      }}
    >
      <div class="flex-1">
        <label class="heading" for="new-group">A new group</label><input
          class="input"
          id="new-group"
          bind:value={name}
          maxlength="100"
          autocomplete="off"
        />
      </div>
      <button class="btn" disabled={name.trim() === ''}>Add</button>
    </form>
    <p class="small mt-2 flex flex-wrap gap-x-4">
      {#each people.groups as g (g.id)}<span class="inline-flex items-center"
          >{g.name} <span class="quiet ml-1">{plural(g.people, 'person', 'people')}</span><button
            class="icon-btn"
            aria-label={`Remove the group ${g.name}`}
            title="Remove the group"
            onclick={() => act(() => api.removeGroup(g.id))}><IconX size={13} strokeWidth={1.8} /></button
          ></span
        >{/each}
    </p>
    {#if chosen}
      <section class="mt-5 border-t border-hair pt-3" aria-label="What they see" aria-busy={sight === null}>
        {#if sight}
          <h3 class="text-[17px]">What {sight.person.name} sees</h3>
          <p>
            {count(sight.sees)} of the {plural(sight.of, 'document', 'documents')} you may see; {count(sight.hidden)} are hidden from them.
            <a href={asThem({})}>View Find as {sight.person.name}</a>
          </p>
          <div class="mt-2 grid max-w-[720px] grid-cols-2 gap-8">
            {#each [['Libraries', sight.libraries.map( (l) => ({ ...l, href: asThem( { criteria: [{ cql: `library == ${l.code}`, negated: false, on: true }] } ) }) )], ['Views', sight.views.map( (v) => ({ ...v, href: asThem( { view: v.code, criteria: app
                            .design!.views.filter((o) => o.code === v.code && o.criterion)
                            .map((o) => ({ cql: o.criterion, negated: false, on: true })) } ) }) )]] as const as [heading, list] (heading)}
              <div>
                <h4 class="heading">{heading}</h4>
                <ul>
                  {#each list as place (place.code)}<li class="flex border-t border-hair py-0.5">
                      <a class="flex-1" href={place.href}>{place.name}</a><span class="num">{count(place.documents)}</span>
                    </li>{:else}<li class="quiet">None.</li>{/each}
                </ul>
              </div>
            {/each}
          </div>
        {:else}<p class="quiet">Counting…</p>{/if}
      </section>
    {/if}
  {:else}<p class="quiet py-4">Loading…</p>{/if}
</div>
