<script lang="ts">
  import { untrack } from 'svelte';
  import { api } from '@/api/client';
  import { count, plural } from '@/parts/format';
  import type { Marking, Tool } from './marking.svelte';

  /** What is removed from the document for those who may see the redacted copy only. */
  let { marking, pictures }: { marking: Marking; pictures: boolean } = $props();

  let typed = $state('');
  let forms = $state<string[]>([]);
  let people = $state(false);
  let listed = $state<number[]>([]);
  const answer = $derived(marking.redactions!);
  const lost = $derived(answer.redactions.filter((r) => r.lost).length);
  const unchecked = $derived(answer.redactions.filter((r) => !r.checked_by).length);
  const record = $derived(marking.reading.record!);
  const tools = $derived<[Tool, string][]>(
    pictures
      ? [
          ['redact-words', 'Words in a rectangle'],
          ['redact-area', 'Everything in a rectangle'],
        ]
      : [['redact-words', 'Words I choose in the text']],
  );
  const chosen = $derived(marking.chosen.filter(Boolean).length);

  function find(event: SubmitEvent) {
    event.preventDefault();
    void marking.find({
      words: typed
        .split(',')
        .map((w) => w.trim())
        .filter(Boolean),
      forms,
      people,
    });
  }
  function all(on: boolean) {
    marking.chosen = marking.places!.map((p) => on && !p.removed);
  }
  // What was chosen stays so when an answer comes meanwhile, if it is still there.
  $effect(() => {
    const there = new Set(answer.redactions.map((r) => r.id));
    listed = untrack(() => listed.filter((id) => there.has(id)));
  });
</script>

<section class="px-4 py-3" aria-labelledby="redaction">
  <h3 class="text-[17px]" id="redaction">Redaction</h3>
  <p class="small quiet">
    What you remove here is gone from the redacted copy: its pages, text, searches and deliveries. The original stays as it is.
  </p>
  <label class="heading mt-3" for="redact-reason">Reason</label>
  {#if answer.reasons.length > 0}<select class="input" id="redact-reason" bind:value={marking.reason}
      >{#each answer.reasons as r (r.code)}<option value={r.code}>{r.label}</option>{/each}</select
    >
  {:else}<input class="input" id="redact-reason" bind:value={marking.reason} maxlength="200" autocomplete="off" />{/if}

  <form class="mt-3 border-t border-hair pt-2" onsubmit={find}>
    <label class="heading" for="redact-words">Every occurrence of</label>
    <input
      class="input"
      id="redact-words"
      bind:value={typed}
      autocomplete="off"
      placeholder="Osric Vane, LK-####-?"
      aria-describedby="redact-help"
    />
    <p class="small quiet" id="redact-help">
      Words or phrases, separated with commas. * stands for any letters, ? for one character, # for one digit.
    </p>
    {#if answer.people.length > 0}<label class="flex min-h-6 items-baseline gap-2"
        ><input type="checkbox" class="check relative top-[2px]" bind:checked={people} /><span
          >people named in the index sheet <span class="small quiet">{answer.people.join(', ')}</span></span
        ></label
      >{/if}
    {#each answer.forms as form (form.name)}<label class="flex min-h-6 items-center gap-2"
        ><input
          type="checkbox"
          class="check"
          checked={forms.includes(form.name)}
          onchange={(e) => (forms = e.currentTarget.checked ? [...forms, form.name] : forms.filter((f) => f !== form.name))}
        />{form.label.toLowerCase()}</label
      >{/each}
    <button class="btn mt-1" disabled={!typed.trim() && forms.length === 0 && !people}>List them</button>
  </form>
  {#if marking.places}
    <div class="mt-2 border-l-2 border-act pl-3" role="group" aria-label="Places found">
      {#if marking.places.length === 0}<p class="quiet">None stands in the text of this document.</p>
      {:else}
        <p class="small">
          <span class="num font-semibold">{count(marking.places.length)}</span>
          {marking.places.length === 1 ? 'place' : 'places'}. <button class="link" onclick={() => all(true)}>all</button>
          <button class="link ml-2" onclick={() => all(false)}>none</button>
        </p>
        <ul class="max-h-[42vh] overflow-y-auto">
          {#each marking.places as place, i (`${place.page} ${place.start} ${place.length}`)}
            <li class="border-t border-hair">
              <label class="flex gap-2 py-1 leading-snug"
                ><input type="checkbox" class="check relative top-[3px]" disabled={place.removed} bind:checked={marking.chosen[i]} /><span
                  class="min-w-0 text-[13px]"
                  ><span class="quiet">{place.page}&ensp;…{place.before}</span><mark>{place.exact}</mark><span class="quiet"
                    >{place.after}…</span
                  >{#if place.part}<span class="small text-rust">
                      {place.part === 'begins' ? 'continues on the next page' : 'begins on the page before'}</span
                    >{/if}{#if place.removed}<span class="small quiet"> removed</span>{/if}</span
                ></label
              >
            </li>
          {/each}
        </ul>
        <p class="mt-2 flex gap-2">
          <button class="btn btn-main" disabled={chosen === 0} onclick={() => marking.redactChosen()}
            >Remove {plural(chosen, 'place', 'places')}</button
          ><button class="btn" onclick={() => (marking.places = null)}>Cancel</button>
        </p>
      {/if}
    </div>
  {/if}
  <fieldset class="mt-3 border-t border-hair pt-2">
    <legend class="heading">By hand</legend>
    {#each tools as [tool, label] (tool)}<button
        class="link mr-4"
        aria-pressed={marking.tool === tool}
        class:font-semibold={marking.tool === tool}
        onclick={() => (marking.tool = marking.tool === tool ? '' : tool)}>{label}{marking.tool === tool ? ', selected' : ''}</button
      >{/each}
  </fieldset>

  <h4 class="mt-4 border-t border-hair pt-2 font-serif text-[15px]">Removed</h4>
  {#if answer.redactions.length === 0}<p class="small quiet">Nothing yet.</p>
  {:else}
    {#if lost > 0}<p class="small text-rust">
        {plural(lost, 'place was', 'places were')} not found in this version. Remove them again or undo them; until then nobody gets the redacted
        copy.
      </p>{/if}
    <ul class="max-h-[36vh] overflow-y-auto">
      {#each answer.redactions as r (r.id)}
        <li class="flex items-baseline gap-2 border-t border-hair py-0.5">
          <label class="flex min-w-0 flex-1 items-baseline gap-2"
            ><input
              type="checkbox"
              class="check relative top-[2px]"
              checked={listed.includes(r.id)}
              onchange={(e) => (listed = e.currentTarget.checked ? [...listed, r.id] : listed.filter((id) => id !== r.id))}
            /><span class="min-w-0 flex-1 truncate" class:text-rust={r.lost}
              >{r.exact || 'an area'}
              <span class="small quiet"
                >{r.reason_label}{#if r.by}, {r.by}{/if}{#if r.checked_by}; checked by {r.checked_by}{/if}</span
              ></span
            ></label
          ><button class="link small" onclick={() => marking.reading.goToPage(r.page)}>page {r.page}</button>
        </li>
      {/each}
    </ul>
    <p class="mt-2 flex flex-wrap gap-2">
      {#if listed.length > 0}<button class="btn" onclick={() => marking.takeBack(listed)}
          >Undo {plural(listed.length, 'place', 'places')}</button
        >{/if}
      {#if unchecked > 0}<button class="btn" title="By someone other than the person who removed it" onclick={() => marking.check()}
          >I have checked it</button
        >{/if}
    </p>
    {#if answer.copy}
      <p class="small mt-2" role="status">
        {#if answer.copy.open}{answer.copy.open}{:else if answer.copy.state === 'making'}The redacted copy is being made.{:else if answer.copy.state === 'failed'}<span
            class="text-rust">{answer.copy.says}</span
          > <button class="link" onclick={() => marking.copyAgain()}>Try again</button>{:else}The redacted copy is ready. <a
            href={api.fileUrl(record.ref, record.version, false, 'redacted')}
            target="_blank"
            rel="noreferrer">View it</a
          >
          or <a href={api.fileUrl(record.ref, record.version, true, 'redacted')} download>download it</a>.{/if}
      </p>
    {/if}
  {/if}
</section>
