<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { Term, Vocabulary, VocabularyPreview } from '@/api/types';
  import { count, plural } from '@/parts/format';

  interface Props {
    vocabulary: Vocabulary;
    isNew: boolean;
    ontake: (vocabulary: Vocabulary) => void;
    onmerge: (from: string, into: string) => void;
  }
  let { vocabulary, isNew, ontake, onmerge }: Props = $props();

  let preview = $state.raw<VocabularyPreview | null>(null);
  let doubles = $state.raw<{ a: string; b: string; why: string }[] | null>(null);
  let fault = $state('');
  const formats = [
    ['csv', 'CSV'],
    ['turtle', 'SKOS, Turtle'],
    ['rdfxml', 'SKOS, RDF/XML'],
    ['jsonld', 'SKOS, JSON-LD'],
  ] as const;
  const label = (code: string) => vocabulary.terms.find((t: Term) => t.code === code)?.label ?? code;

  let file: File | undefined;
  let busy = $state(false);

  function take(event: Event & { currentTarget: HTMLInputElement }) {
    file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (file) void look('');
  }
  async function look(scheme: string) {
    if (!file) return;
    busy = true;
    try {
      fault = '';
      preview = await api.previewVocabulary(vocabulary.code || 'new', file, scheme);
    } catch (error) {
      fault = messageOf(error, 'The file cannot be read.');
    } finally {
      busy = false;
    }
  }
</script>

<section class="mt-4 border-t border-hair pt-2" aria-label="Files and likely duplicates">
  <p class="small flex flex-wrap gap-x-4 gap-y-1">
    {#if !isNew}
      <span class="quiet">As a file:</span>
      {#each formats as [format, name] (format)}<a href={api.vocabularyFile(vocabulary.code, format)} download>{name}</a>{/each}
    {/if}
    <label class="link cursor-pointer"
      >Import a file…<input class="sr-only" type="file" accept=".csv,.ttl,.rdf,.xml,.jsonld,.json" onchange={take} /></label
    >
    {#if !isNew}<button
        class="link"
        type="button"
        aria-expanded={doubles !== null}
        onclick={async () => (doubles = doubles ? null : (await api.doubles(vocabulary.code)).doubles)}
        >{doubles ? 'Hide likely duplicates' : 'Likely duplicates'}</button
      >{/if}
  </p>
  {#if busy}<p class="quiet" role="status">Reading the file…</p>{/if}
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
  {#if preview}
    <div class="mt-2 border-l-2 border-act pl-3" role="region" aria-label="What the file would change">
      {#if preview.schemes.length > 0}
        <label class="heading" for="scheme-of-file">Scheme to import, of {preview.schemes.length} in the file</label>
        <select class="input mb-1" id="scheme-of-file" value={preview.chosen} disabled={busy} onchange={(e) => look(e.currentTarget.value)}>
          <option value="">All of them as one</option>
          {#each preview.schemes as s (s.uri)}<option value={s.uri}>{s.name || s.uri}, {plural(s.concepts, 'concept', 'concepts')}</option
            >{/each}
        </select>
      {/if}
      <p>
        The file adds {count(preview.added.length)}, changes {count(preview.changed.length)} and removes {count(preview.lost.length)} of the terms
        that are here.
      </p>
      {#each [['Added', preview.added], ['Changed', preview.changed], ['Removed', preview.lost]] as const as [name, list] (name)}
        {#if list.length > 0}<details class="small">
            <summary class="cursor-pointer py-1">{name}: {plural(list.length, 'term', 'terms')}</summary>
            <p>{list.map((t) => t.label).join(', ')}</p>
          </details>{/if}
      {/each}
      {#each preview.faults as wrong (wrong)}<p class="fault">{wrong}</p>{/each}
      <p class="mt-1 flex gap-3">
        <button
          class="btn btn-main"
          type="button"
          onclick={() => {
            ontake(preview!.vocabulary);
            preview = null;
          }}>Import it</button
        ><button class="btn" type="button" onclick={() => (preview = null)}>Cancel</button>
      </p>
      <p class="small quiet">Nothing is saved until you save it.</p>
    </div>
  {/if}
  {#if doubles}
    <ul>
      {#each doubles as d (d.a + d.b)}
        <li class="flex items-baseline gap-3 border-t border-hair py-0.5">
          <span class="min-w-0 flex-1">“{label(d.a)}” and “{label(d.b)}” <span class="small quiet">{d.why}</span></span>
          <button
            class="link small"
            type="button"
            onclick={() => {
              onmerge(d.b, d.a);
              doubles = doubles!.filter((o) => o !== d);
            }}>Keep “{label(d.a)}”</button
          >
          <button
            class="link small"
            type="button"
            onclick={() => {
              onmerge(d.a, d.b);
              doubles = doubles!.filter((o) => o !== d);
            }}>Keep “{label(d.b)}”</button
          >
        </li>
      {:else}<li class="quiet small py-1">No two terms look alike.</li>{/each}
    </ul>
  {/if}
</section>
