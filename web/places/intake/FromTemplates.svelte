<script lang="ts">
  import { api, ApiError, type Sheet } from '@/api/client';
  import type { IntakeAnswer, SheetEntry } from '@/api/types';
  import { plural } from '@/parts/format';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { defaultsOf } from '@/parts/sheet';
  import { app } from '@/state/app.svelte';
  import { Dialog } from 'bits-ui';

  /** New documents without a file: one sheet, filled in once, makes a document of each template that is chosen. */
  interface Props {
    change: (act: () => Promise<IntakeAnswer & { made: string[] }>) => Promise<{ made: string[] }>;
    onmade: (made: string[]) => void;
    onleave: () => void;
  }
  let { change, onmade, onleave }: Props = $props();

  type Template = Awaited<ReturnType<typeof api.templates>>['templates'][number];
  const LAST = 'intake:templates';
  let templates = $state.raw<Template[] | null>(null);
  let chosen = $state<string[]>([]);
  let values = $state<Sheet>({});
  let faults = $state<Record<string, string>>({});
  let fault = $state('');
  let busy = $state(false);

  void api.templates().then(
    (got) => {
      templates = got.templates;
      // Forms that go together are filled in together the next time too.
      const last = JSON.parse(localStorage.getItem(LAST) ?? '[]') as string[];
      chosen = last.filter((ref) => got.templates.some((t) => t.ref === ref));
    },
    () => (fault = 'The templates cannot be shown.'),
  );
  /** The fields that any of them has, each once; required where one of them asks for it. */
  const entries = $derived.by(() => {
    const found: SheetEntry[] = [];
    for (const ref of chosen) {
      const type = app.design!.types.find((t) => t.code === templates?.find((o) => o.ref === ref)?.type);
      for (const entry of type?.fields ?? []) {
        const there = found.findIndex((f) => f.code === entry.code);
        if (there < 0) found.push({ ...entry, section: '' });
        else if (entry.required) found[there] = { ...found[there]!, required: true };
      }
    }
    return found;
  });
  const shown = $derived({ ...defaultsOf(entries), ...values });
  const toggle = (ref: string, on: boolean) => (chosen = on ? [...chosen, ref] : chosen.filter((r) => r !== ref));

  async function make(event: Event) {
    event.preventDefault();
    busy = true;
    fault = '';
    try {
      const { made } = await change(() => api.fromTemplates(chosen, $state.snapshot(shown)));
      localStorage.setItem(LAST, JSON.stringify(chosen));
      app.say(`${plural(made.length, 'new document waits', 'new documents wait')} to be filed.`);
      onmade(made);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      faults = error.fields;
      fault = Object.keys(error.fields).length === 0 ? error.message : '';
    } finally {
      busy = false;
    }
  }
</script>

<Dialog.Root open onOpenChange={(open) => !open && onleave()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content
      class="fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[640px] max-w-[94vw] -translate-x-1/2 flex-col border border-hair bg-sheet shadow-xl"
    >
      <div class="px-6 pt-5 pb-2">
        <Dialog.Title class="font-serif text-[20px]">New documents from templates</Dialog.Title>
        <p class="small quiet">
          One sheet fills in all that are chosen. In a template a value stands where its field’s code is in braces, as in {'{document_date}'}.
        </p>
      </div>
      <form class="min-h-0 flex-1 overflow-y-auto px-6" id="from-templates" onsubmit={make}>
        {#if templates?.length === 0}<p class="quiet py-3">There is no template yet. A filed document is kept as one in the reader.</p>{/if}
        <ul aria-label="Templates">
          {#each templates ?? [] as t (t.ref)}
            <li class="border-t border-hair py-1">
              <label class="flex items-baseline gap-2"
                ><input
                  type="checkbox"
                  class="check"
                  checked={chosen.includes(t.ref)}
                  onchange={(e) => toggle(t.ref, e.currentTarget.checked)}
                /><span class="min-w-0 flex-1 truncate">{t.title}</span>{#if !t.filled}<span class="small quiet">taken as it is</span
                  >{/if}<span class="small quiet">{t.library}</span></label
              >
            </li>
          {/each}
        </ul>
        {#if chosen.length > 0}
          <div class="border-t border-hair pt-2">
            <SheetForm
              {entries}
              values={shown}
              {faults}
              onchange={(code, given) => {
                values[code] = given;
                delete faults[code];
              }}
            />
          </div>
        {/if}
        {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
      </form>
      <div class="flex gap-3 border-t border-hair px-6 py-3">
        <button class="btn btn-main" form="from-templates" disabled={busy || chosen.length === 0}
          >{chosen.length > 1 ? `Create ${chosen.length} documents` : 'Create this document'}</button
        >
        <button class="btn" type="button" onclick={onleave}>Cancel</button>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
