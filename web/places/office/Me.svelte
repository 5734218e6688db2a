<script lang="ts">
  import { api } from '@/api/client';
  import { app } from '@/state/app.svelte';
  import { searches } from '@/state/searches.svelte';
  import AwayForm from './AwayForm.svelte';
  import Factor from './Factor.svelte';
  import Self from './Self.svelte';
  import Sessions from './Sessions.svelte';
  import Tokens from './Tokens.svelte';
  import Webhooks from './Webhooks.svelte';
  import { theme } from '@/state/theme.svelte';
  import type { DateForm, NumberForm } from '@/state/written.svelte';

  const TOOLS: [string, string][] = [
    ['find', 'Find in document'],
    ['mail', 'Send as a message'],
    ['pin', 'Pull list and pin'],
    ['marks', 'Mark the pages'],
    ['thumbs', 'Thumbnails'],
    ['rotate', 'Rotate'],
    ['full', 'Full screen'],
    ['zoom', 'Zoom'],
  ];
  const THEMES: [typeof theme.choice, string][] = [
    ['auto', 'same as this computer'],
    ['light', 'light'],
    ['dark', 'dark'],
  ];
  const DATES: [DateForm, string][] = [
    ['words', '14 Mar 2024'],
    ['slashes', '14/03/2024'],
    ['dots', '14.03.2024'],
    ['iso', '2024-03-14'],
  ];
  const NUMBERS: [NumberForm, string][] = [
    ['point', '1\u2009234.5'],
    ['comma', '1\u2009234,5'],
    ['commas_and_point', '1,234.5'],
  ];
  const words = $derived(app.design!.words);
  const officeReach = $derived(words.reaches.find((r) => r.value === words.office_reach)?.label ?? '');
  const hidden = $derived(app.person?.preferences.reader_hidden ?? []);
  /** What Find begins with: a view, a saved search, or neither. */
  const begins = $derived(
    app.person?.preferences.default_search
      ? `search/${app.person.preferences.default_search}`
      : app.design!.default_view
        ? `view/${app.design!.default_view}`
        : '',
  );
  if (!searches.known) void searches.load().catch(() => {});

  async function begin(with_: string) {
    const [kind, code = ''] = with_.split('/');
    await app.prefer({
      default_search: kind === 'search' ? Number(code) : null,
      default_view: kind === 'view' ? code : null,
    });
    await app.loadDesign();
  }
  async function setOffice(reach: string) {
    try {
      await api.officeSettings({ reach: reach as NonNullable<typeof app.reach> });
      await app.loadDesign();
      app.say('This holds for everybody who has not chosen otherwise.');
    } catch (error) {
      app.fail(error, 'The setting was not changed. Try again.');
    }
  }
</script>

<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-xl p-8">
    <h1 class="text-[26px]">Your settings</h1>
    <p class="quiet mt-1">
      {app.person?.name}, <span class="mono">{app.person?.sign_in}</span>{#if app.person?.groups.length}; in {app.person.groups.join(
          ', ',
        )}{/if}
    </p>
    <h2 class="mt-6 border-b border-hair pb-1 text-[19px]">Find</h2>
    <div class="grid max-w-md gap-2 py-2">
      <div>
        <label class="heading" for="begins">Find begins with</label>
        <select class="input" id="begins" value={begins} onchange={(e) => begin(e.currentTarget.value)}>
          <option value="">everything</option>
          <optgroup label="Views">
            {#each app.design!.views as v (v.code)}<option value={`view/${v.code}`}>{v.name}</option>{/each}
          </optgroup>
          {#if searches.saved.length > 0}<optgroup label="Saved searches">
              {#each searches.saved as s (s.id)}<option value={`search/${s.id}`}>{s.name}</option>{/each}
            </optgroup>{/if}
        </select>
      </div>
      <div>
        <label class="heading" for="reach">How widely plain words are matched</label>
        <select
          class="input"
          id="reach"
          value={app.person?.preferences.reach ?? ''}
          onchange={(e) => app.prefer({ reach: (e.currentTarget.value || null) as typeof app.reach | null })}
        >
          <option value="">as in the office: {officeReach}</option>
          {#each words.reaches as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
        </select>
        <p class="small quiet">Phrases in quotation marks are always found as written.</p>
      </div>
      {#if app.person?.may.design}<div>
          <label class="heading" for="office-reach">For everybody in the office</label>
          <select class="input" id="office-reach" value={words.office_reach} onchange={(e) => setOffice(e.currentTarget.value)}>
            {#each words.reaches as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
          </select>
        </div>{/if}
    </div>
    <h2 class="mt-4 border-b border-hair pb-1 text-[19px]">Tasks and notices</h2>
    <div class="grid max-w-md gap-2 py-2">
      <div>
        <label class="heading" for="notices-mailed">Notices by mail</label>
        <select
          class="input"
          id="notices-mailed"
          value={app.person?.preferences.notices_mailed ?? 'at_once'}
          onchange={(e) => app.prefer({ notices_mailed: e.currentTarget.value as 'at_once' | 'daily' | 'none' })}
          ><option value="at_once">at once</option><option value="daily">once a day, together</option><option value="none"
            >not by mail</option
          ></select
        >
        <p class="small quiet">
          {app.person?.mail
            ? `To ${app.person.mail}. They are on your desk in any case.`
            : 'You have no e-mail address; they are on your desk.'}
        </p>
      </div>
      <AwayForm load={api.away} save={api.setAway} />
    </div>
    <h2 class="mt-4 border-b border-hair pb-1 text-[19px]">Screen</h2>
    <div class="grid max-w-md gap-2 py-2">
      <div>
        <label class="heading" for="theme">Theme</label>
        <select class="input" id="theme" value={theme.choice} onchange={(e) => theme.choose(e.currentTarget.value as typeof theme.choice)}>
          {#each THEMES as [value, label] (value)}<option {value}>{label}</option>{/each}
        </select>
      </div>
      <div class="grid grid-cols-2 gap-4">
        <div>
          <label class="heading" for="dates">Dates are written</label>
          <select
            class="input"
            id="dates"
            value={app.person?.preferences.dates ?? 'words'}
            onchange={(e) => app.prefer({ dates: e.currentTarget.value as DateForm })}
          >
            {#each DATES as [value, label] (value)}<option {value}>{label}</option>{/each}
          </select>
        </div>
        <div>
          <label class="heading" for="numbers">Numbers are written</label>
          <select
            class="input"
            id="numbers"
            value={app.person?.preferences.numbers ?? 'point'}
            onchange={(e) => app.prefer({ numbers: e.currentTarget.value as NumberForm })}
          >
            {#each NUMBERS as [value, label] (value)}<option {value}>{label}</option>{/each}
          </select>
        </div>
      </div>
      <p class="small quiet">For you only. Titles, exports and deliveries keep the usual form; any form can be typed.</p>
      <div>
        <label class="heading" for="notices">Notices at the foot of the window stay</label>
        <select
          class="input"
          id="notices"
          value={app.person?.preferences.notices ?? 'short'}
          onchange={(e) => app.prefer({ notices: e.currentTarget.value as 'short' | 'long' | 'stay' })}
        >
          <option value="short">for some seconds</option><option value="long">three times as long</option><option value="stay"
            >until the next one</option
          >
        </select>
      </div>
      <fieldset>
        <legend class="heading">Tools shown in the reader</legend>
        <div class="grid grid-cols-2">
          {#each TOOLS as [tool, label] (tool)}<label class="flex min-h-6 items-center gap-2"
              ><input
                type="checkbox"
                class="check"
                checked={!hidden.includes(tool)}
                onchange={(e) =>
                  app.prefer({ reader_hidden: e.currentTarget.checked ? hidden.filter((t) => t !== tool) : [...hidden, tool] })}
              />{label}</label
            >{/each}
        </div>
      </fieldset>
    </div>
    <Self />
    <h2 class="mt-6 border-b border-hair pb-1 text-[19px]">Second factor</h2>
    <Factor />
    <h2 class="mt-6 border-b border-hair pb-1 text-[19px]">Signed in</h2>
    <Sessions />
    <h2 class="mt-6 border-b border-hair pb-1 text-[19px]">Tokens for programs</h2>
    <Tokens />
    <h2 class="mt-6 border-b border-hair pb-1 text-[19px]">Programs that are told</h2>
    <Webhooks />
  </div>
</div>
