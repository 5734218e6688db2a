<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { NoticeText } from '@/api/types';
  import { Attempt } from '@/parts/attempt.svelte';
  import { app } from '@/state/app.svelte';

  /** The days on which the office works, and the words in which it tells people of things. */
  const DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
  let days = $state.raw<number[]>([]);
  let holidays = $state('');
  let texts = $state<NoticeText[]>([]);
  let names = $state.raw<string[]>([]);
  let fault = $state('');
  const dating = new Attempt();
  const wording = new Attempt();

  Promise.all([api.calendar(), api.noticeTexts()]).then(
    ([calendar, got]) => {
      days = calendar.days;
      holidays = calendar.holidays.join('\n');
      texts = got.texts;
      names = got.names;
    },
    (error: unknown) => (fault = messageOf(error, 'This cannot be shown.')),
  );

  async function saveDays(event: SubmitEvent) {
    event.preventDefault();
    const done = await dating.run(async () => {
      const got = await api.setCalendar({ days, holidays: holidays.split(/[\s,;]+/).filter(Boolean) });
      holidays = got.holidays.join('\n');
    }, 'holidays');
    if (done) app.say('Saved. Deadlines that begin from now on count these days.');
  }
  async function saveTexts(event: SubmitEvent) {
    event.preventDefault();
    const done = await wording.run(async () => {
      texts = (await api.setNoticeTexts(Object.fromEntries(texts.map((t) => [t.kind, t.text])))).texts;
    }, 'texts');
    if (done) app.say('Saved.');
  }
  const fieldFault = (of: Attempt, name: string) => Object.entries(of.faults).find(([key]) => key.split('.')[0] === name)?.[1];
</script>

{#if fault}<p class="fault py-3">{fault}</p>{/if}
<form class="max-w-md py-3" onsubmit={saveDays} aria-label="Working days">
  <h2 class="text-[18px]">Working days</h2>
  <div class="flex flex-wrap gap-x-4 py-1">
    {#each DAYS as day, i (day)}
      <label class="inline-flex min-h-6 items-center gap-1.5"
        ><input
          type="checkbox"
          class="check"
          checked={days.includes(i + 1)}
          onchange={(e) => (days = e.currentTarget.checked ? [...days, i + 1] : days.filter((d) => d !== i + 1))}
        />{day}</label
      >
    {/each}
  </div>
  {#if fieldFault(dating, 'days')}<p class="fault" role="alert">{fieldFault(dating, 'days')}</p>{/if}
  <label class="heading mt-1" for="holidays">Days on which the office is closed, one a line, like 2026-12-25</label>
  <textarea id="holidays" class="input mono" rows="5" bind:value={holidays}></textarea>
  {#if fieldFault(dating, 'holidays')}<p class="fault" role="alert">{fieldFault(dating, 'holidays')}</p>{/if}
  <button class="btn btn-main mt-2" disabled={dating.busy}>Save the working days</button>
</form>
<form class="max-w-xl border-t border-hair py-3" onsubmit={saveTexts} aria-label="Notices">
  <h2 class="text-[18px]">Notices</h2>
  <p class="quiet small">
    What people are told, in your own words. {names.map((name) => `{${name}}`).join(', ')} stand for what it is about; empty is as it was.
  </p>
  {#each texts as text (text.kind)}
    <label class="heading mt-2" for={`text-${text.kind}`}>{text.label}</label>
    <input id={`text-${text.kind}`} class="input" placeholder={text.usual} bind:value={text.text} maxlength="1000" />
  {/each}
  {#if fieldFault(wording, 'texts')}<p class="fault" role="alert">{fieldFault(wording, 'texts')}</p>{/if}
  <button class="btn btn-main mt-3" disabled={wording.busy}>Save the notices</button>
</form>
