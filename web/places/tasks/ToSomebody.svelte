<script lang="ts">
  import { api } from '@/api/client';
  import Combobox from '@/parts/Combobox.svelte';
  import { app } from '@/state/app.svelte';

  interface Props {
    task: number;
    label: string;
    act: string;
    /** Only to those who may decide. */
    toDecide?: boolean;
    onto: (to: string, name: string, text: string) => void;
    oncancel: () => void;
  }
  let { task, label, act, toDecide = false, onto, oncancel }: Props = $props();

  let people = $state.raw<{ sign_in: string; name: string; may_decide: boolean }[]>([]);
  let to = $state('');
  let text = $state('');
  // svelte-ignore state_referenced_locally
  api.taskPeople(task).then(
    (got) => (people = got.people),
    (error: unknown) => app.fail(error, 'The people cannot be shown. Try again.'),
  );
  const items = $derived(people.filter((p) => !toDecide || p.may_decide).map((p) => ({ value: p.sign_in, label: p.name })));
</script>

<form
  class="mt-2"
  onsubmit={(event) => {
    event.preventDefault();
    onto(to, people.find((p) => p.sign_in === to)?.name ?? '', text);
  }}
>
  <label class="heading" for="somebody">To</label>
  <Combobox id="somebody" label="To" {items} value={to} onchange={(v) => (to = v)} />
  <label class="heading mt-2" for="somebody-text">{label}</label>
  <textarea id="somebody-text" class="input" rows="2" bind:value={text}></textarea>
  <div class="mt-2 flex gap-2">
    <button class="btn btn-main" disabled={!to}>{act}</button><button class="btn" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>
