<script lang="ts">
  import Popover from './Popover.svelte';
  import IconCalendar from '@lucide/svelte/icons/calendar';
  import IconLeft from '@lucide/svelte/icons/chevron-left';
  import IconRight from '@lucide/svelte/icons/chevron-right';

  /** A date as people know it: typed (also only the month or year, also “last year”) or picked from a calendar. */
  let {
    value = $bindable(),
    id,
    label,
    placeholder = '2019, 14 Mar 2019, last year',
  }: { value: string; id?: string; label: string; placeholder?: string } = $props();

  let open = $state(false);
  let box: HTMLElement;
  const now = new Date();
  let year = $state(now.getFullYear());
  let month = $state(now.getMonth());
  const names = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
  const weeks = $derived.by(() => {
    const first = (new Date(year, month, 1).getDay() + 6) % 7;
    const days = new Date(year, month + 1, 0).getDate();
    return Array.from({ length: Math.ceil((first + days) / 7) }, (_, w) =>
      Array.from({ length: 7 }, (_, d) => w * 7 + d - first + 1).map((n) => (n >= 1 && n <= days ? n : 0)),
    );
  });
  const words = ['today', 'this month', 'last month', 'this year', 'last year', 'last 30 days'];

  function onopen() {
    const known = /^(\d{4})(?:-(\d{2}))?/.exec(value) ?? /(?:^|\s)()(\d{4})$/.exec(value);
    if (known) {
      year = Number(known[1] || known[2]);
      if (known[1] && known[2]) month = Number(known[2]) - 1;
    }
  }
  function pick(text: string) {
    value = text;
    open = false;
    box.querySelector('input')?.focus();
  }
  function step(by: number) {
    const to = new Date(year, month + by, 1);
    year = to.getFullYear();
    month = to.getMonth();
  }
  const iso = (day: number) => `${year}-${String(month + 1).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
</script>

<div class="relative" bind:this={box}>
  <input class="input pr-8" {id} aria-label={id ? undefined : label} bind:value {placeholder} autocomplete="off" />
  <div class="absolute top-[2px] right-0.5">
    <Popover label={`Calendar for ${label}`} called="Calendar" look="icon-btn" width={264} bind:open {onopen}>
      {#snippet trigger()}<IconCalendar size={15} strokeWidth={1.6} />{/snippet}
      <div class="flex items-center gap-1">
        <button class="icon-btn" type="button" aria-label="Previous year" onclick={() => year--}>«</button>
        <button class="icon-btn" type="button" aria-label="Previous month" onclick={() => step(-1)}
          ><IconLeft size={14} strokeWidth={1.7} /></button
        >
        <button
          class="link flex-1 text-center"
          type="button"
          title="The whole month"
          onclick={() => pick(`${year}-${String(month + 1).padStart(2, '0')}`)}>{names[month]}</button
        >
        <button class="link flex-1 text-center" type="button" title="The whole year" onclick={() => pick(String(year))}>{year}</button>
        <button class="icon-btn" type="button" aria-label="Next month" onclick={() => step(1)}
          ><IconRight size={14} strokeWidth={1.7} /></button
        >
        <button class="icon-btn" type="button" aria-label="Next year" onclick={() => year++}>»</button>
      </div>
      <table class="small w-full text-center">
        <thead
          ><tr class="quiet"
            >{#each ['M', 'T', 'W', 'T', 'F', 'S', 'S'] as day, i (i)}<th class="font-normal">{day}</th>{/each}</tr
          ></thead
        >
        <tbody
          >{#each weeks as week, w (w)}<tr
              >{#each week as day, d (d)}<td
                  >{#if day}<button class="day" type="button" aria-pressed={value === iso(day)} onclick={() => pick(iso(day))}>{day}</button
                    >{/if}</td
                >{/each}</tr
            >{/each}</tbody
        >
      </table>
      <p class="small flex flex-wrap gap-x-3 border-t border-hair pt-1">
        {#each words as word (word)}<button class="link min-h-6" type="button" onclick={() => pick(word)}>{word}</button>{/each}
      </p>
    </Popover>
  </div>
</div>

<style>
  .day {
    width: 30px;
    height: 26px;
    border-radius: 3px;
    font-variant-numeric: tabular-nums;
  }
  .day:hover {
    background: var(--act-tint);
  }
  .day[aria-pressed='true'] {
    background: var(--act);
    color: var(--on-act);
  }
</style>
