<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { api } from '@/api/client';
  import type { TransferPlan } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { Trying } from '@/state/trying.svelte';
  import { undoAct } from './undoing';
  import { plural } from './format';

  /** Copies or moves documents to another library: what it would do is shown first, and it can be taken back. */
  let { documents, onleave, ondone }: { documents: string[]; onleave: () => void; ondone: () => void } = $props();

  let how = $state<'copy' | 'move'>('copy');
  let library = $state('');
  let type = $state('');
  let mapping = $state<Record<string, string>>({});
  let plan = $state.raw<TransferPlan | null>(null);
  /** What has no place there, from every look at this library and type: what was mapped can be mapped anew. */
  let homeless = $state.raw<TransferPlan['lost']>([]);
  const trying = new Trying();
  const libraries = $derived(app.design!.libraries.filter((l) => l.may_change));
  const types = $derived(app.design!.types.filter((t) => libraries.find((l) => l.code === library)?.types.includes(t.code)));
  const targets = $derived(app.design!.types.find((t) => t.code === type)?.fields.map((f) => f.code) ?? []);
  const asked = () => ({
    documents,
    library,
    type: type || null,
    how,
    mapping: Object.fromEntries(Object.entries(mapping).filter(([, into]) => into !== '')),
  });

  const look = () =>
    trying.run(async () => {
      plan = await api.planTransfer(asked());
      const { lost } = plan;
      homeless = [...lost, ...homeless.filter((h) => mapping[h.field] && !lost.some((l) => l.field === h.field))].toSorted((a, b) =>
        a.label.localeCompare(b.label),
      );
    });
  function begin() {
    plan = null;
    mapping = {};
    homeless = [];
  }
  const go = async () => {
    await trying.run(async () => {
      const { act, documents: n } = await api.transfer({ ...asked(), expected: plan!.go });
      ondone();
      onleave();
      app.say(`${plural(n, 'document is', 'documents are')} ${how === 'copy' ? 'copied' : 'moved'}.`, {
        kept: true,
        undo: () => undoAct(act, ondone),
      });
    });
    // What was refused is looked at anew before it is tried again.
    if (trying.fault) plan = null;
  };
</script>

<Dialog.Root
  open
  onOpenChange={(open) => {
    if (!open) onleave();
  }}
>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/25" />
    <Dialog.Content
      class="fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[560px] max-w-[94vw] -translate-x-1/2 flex-col border border-hair bg-sheet shadow-xl"
    >
      <div class="px-6 pt-5 pb-2">
        <Dialog.Title class="font-serif text-xl">Copy or move {plural(documents.length, 'document', 'documents')}</Dialog.Title>
        <Dialog.Description class="quiet">To another library, with their values; attachments go along.</Dialog.Description>
      </div>
      <form
        id="transfer"
        class="min-h-0 flex-1 overflow-y-auto px-6 pb-3"
        onsubmit={(e) => {
          e.preventDefault();
          void look();
        }}
      >
        <fieldset class="flex gap-6">
          <legend class="sr-only">What is done</legend
          >{#each [['copy', 'Copy them'], ['move', 'Move them']] as const as [value, label] (value)}<label
              class="flex items-center gap-2 py-1"
              ><input type="radio" class="check" name="how" {value} bind:group={how} onchange={() => (plan = null)} />{label}</label
            >{/each}
        </fieldset>
        <label class="heading mt-1" for="transfer-library">Library</label>
        <select
          class="input"
          id="transfer-library"
          bind:value={library}
          onchange={() => {
            type = '';
            begin();
          }}
          ><option value="">choose one</option>{#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}</select
        >
        <label class="heading mt-2" for="transfer-type">Document type there</label>
        <select class="input" id="transfer-type" bind:value={type} onchange={begin}
          ><option value="">keep each document’s type</option>{#each types as t (t.code)}<option value={t.code}>{t.name}</option
            >{/each}</select
        >
        {#if plan}
          <div class="mt-3 border-t border-hair pt-2" role="region" aria-label="What it would do">
            <p><strong>{plural(plan.go, 'document', 'documents')}</strong> would be {how === 'copy' ? 'copied' : 'moved'}.</p>
            {#if plan.titles.documents > 0}
              <details class="mt-1" open={plan.titles.documents <= 3}>
                <summary class="cursor-pointer py-1">{plural(plan.titles.documents, 'title becomes', 'titles become')} another</summary>
                <ul class="small ml-4">
                  {#each plan.titles.sample as t (t.ref)}<li class="border-t border-hair py-0.5">
                      <s class="quiet">{t.before}</s><br />{t.after}
                    </li>{/each}{#if plan.titles.documents > plan.titles.sample.length}<li class="quiet">
                      and {plan.titles.documents - plan.titles.sample.length} more
                    </li>{/if}
                </ul>
              </details>
            {/if}
            {#each plan.refused as refused (refused.why)}
              <details class="mt-1">
                <summary class="cursor-pointer py-1 text-rust">{plural(refused.documents.length, 'stays', 'stay')}. {refused.why}</summary>
                <ul class="small ml-4">
                  {#each refused.documents as d (d.ref)}<li><a href={`/documents/${d.ref}`} target="_blank">{d.title}</a></li>{/each}
                </ul>
              </details>
            {/each}
          </div>
        {/if}
        {#if homeless.length > 0}
          <div class="mt-3 border-t border-hair pt-2" role="group" aria-label="Fields that the document type there does not have">
            <p class="small quiet">The document type there does not have:</p>
            {#each homeless as lost (lost.field)}
              <p class="mt-1 flex items-baseline gap-3">
                <span class="flex-1"
                  >{lost.label} <span class="small quiet">of {plural(lost.documents, 'document', 'documents')}</span></span
                >
                <label
                  ><span class="sr-only">{lost.label} goes to</span><select
                    class="input"
                    style="width:220px"
                    value={mapping[lost.field] ?? ''}
                    onchange={(e) => {
                      mapping[lost.field] = e.currentTarget.value;
                      plan = null;
                    }}
                    ><option value="">is not carried over</option>{#each targets as code (code)}<option value={code}
                        >goes to {app.label(code)}</option
                      >{/each}</select
                  ></label
                >
              </p>
            {/each}
          </div>
        {/if}
      </form>
      {#if trying.fault}<p class="fault border-t border-hair px-6 pt-2" role="alert">{trying.fault}</p>{/if}
      <p class="flex gap-2 border-t border-hair px-6 py-3">
        {#if plan && plan.go > 0}<button class="btn btn-main" disabled={trying.busy} onclick={go}
            >{how === 'copy' ? 'Copy' : 'Move'} {plural(plan.go, 'document', 'documents')}</button
          >
        {:else}<button class="btn btn-main" form="transfer" disabled={trying.busy || library === ''}>Show the effect</button>{/if}
        <button class="btn" onclick={onleave}>Cancel</button>
      </p>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
