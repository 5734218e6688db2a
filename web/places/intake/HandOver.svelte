<script lang="ts">
  import { api } from '@/api/client';
  import Combobox from '@/parts/Combobox.svelte';
  import { plural } from '@/parts/format';
  import Popover from '@/parts/Popover.svelte';
  import { app } from '@/state/app.svelte';
  import type { Waiting } from './waiting.svelte';

  /** Hands the chosen documents over to a colleague or to a group. */
  let { waiting }: { waiting: Waiting } = $props();

  let open = $state(false);
  let hands = $state.raw<{ value: string; label: string; hint: string }[]>([]);
  let to = $state('');

  async function load() {
    try {
      const { people, groups } = await api.hands();
      hands = [
        ...groups.map((name) => ({ value: `group ${name}`, label: name, hint: 'group' })),
        ...people.map((person) => ({ value: `person ${person.sign_in}`, label: person.name, hint: '' })),
      ];
    } catch (error) {
      app.fail(error, 'The colleagues cannot be shown.');
    }
  }
  async function give() {
    const hand = hands.find((h) => h.value === to);
    if (!hand) return;
    const [kind, ...rest] = to.split(' ');
    if (await waiting.handOver({ [kind!]: rest.join(' ') }, hand.label)) open = false;
  }
</script>

<Popover label="Hand over" bind:open width={280} align="start" called="Hand over" onopen={load}>
  <p class="small quiet pb-1">{plural(waiting.chosen.length, 'document goes', 'documents go')} to</p>
  <Combobox label="Colleague or group" items={hands} value={to} onchange={(v) => (to = v)} />
  <button class="btn btn-main mt-3 w-full" disabled={to === ''} onclick={give}>Hand over</button>
</Popover>
