<script lang="ts">
  import { api } from '@/api/client';
  import type { RunningCases } from '@/api/types';
  import { count, day, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  /** Cases under way: where they would stand now. They go on in the version they began in, unless they are moved. */
  let { code }: { code: string } = $props();
  let cases = $state.raw<RunningCases[]>([]);
  let steps = $state.raw<{ code: string; name: string }[]>([]);
  let busy = $state(false);
  let to = $state<Record<string, string>>({});

  async function load() {
    const got = await api.runningCases(code);
    cases = got.cases;
    steps = got.steps;
  }
  void load().catch(() => undefined);
  const nameOf = (of: RunningCases) => `${of.version} ${of.step}`;

  async function move(of: RunningCases) {
    busy = true;
    let moved = 0;
    try {
      for (;;) {
        const got = await api.moveCases(code, { version: of.version, from: of.step, to: to[nameOf(of)] ?? of.step });
        moved += got.moved;
        if (got.left === 0 || got.moved === 0) break;
      }
      app.say(`${plural(moved, 'case', 'cases')} moved.`);
      await load();
    } catch (error) {
      app.fail(error, 'The cases were not moved. Try again.');
    } finally {
      busy = false;
    }
  }
</script>

{#if cases.length > 0}
  <section class="mt-5" aria-labelledby="running">
    <h3 class="text-[17px]" id="running">Cases under way</h3>
    <ul>
      {#each cases as of (nameOf(of))}
        <li class="border-t border-hair py-1">
          <p class="flex items-baseline gap-3">
            <span class="min-w-0 flex-1"
              >{of.name}{#if of.stopped > 0}<span class="small text-rust">, {count(of.stopped)} stopped</span>{/if}</span
            ><a class="num w-12" href={`/find?c=${encodeURIComponent(`procedure_step == "${code}.${of.step}"`)}`}>{count(of.cases)}</a>
          </p>
          {#if !of.is_present}
            <p class="small quiet">
              In the version of {day(of.since)}. {of.stands === null
                ? 'The published procedure does not have this step.'
                : `In the published procedure they would be at “${of.stands}”.`}
            </p>
            <div class="flex items-center gap-2 py-1">
              <select
                class="input"
                aria-label={`Move ${of.name} to`}
                value={to[nameOf(of)] ?? (of.stands === null ? '' : of.step)}
                onchange={(e) => (to[nameOf(of)] = e.currentTarget.value)}
                ><option value="">they go on as they began</option>{#each steps as step (step.code)}<option value={step.code}
                    >move to “{step.name}”</option
                  >{/each}</select
              ><button
                class="btn"
                type="button"
                disabled={busy || (to[nameOf(of)] ?? (of.stands === null ? '' : of.step)) === ''}
                onclick={() => void move(of)}>Move</button
              >
            </div>
          {/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
