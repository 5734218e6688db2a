<script lang="ts">
  import type { Term, Vocabulary } from '@/api/types';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import IconIndentDecrease from '@lucide/svelte/icons/list-indent-decrease';
  import IconIndentIncrease from '@lucide/svelte/icons/list-indent-increase';
  import IconPlus from '@lucide/svelte/icons/plus';
  import IconX from '@lucide/svelte/icons/x';
  import { flushSync } from 'svelte';
  import { codeOf, Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import TextRow from './TextRow.svelte';

  let { vocabulary }: { vocabulary: Vocabulary | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Vocabulary>('vocabularies', vocabulary, { code: '', name: '', terms: [], lock_version: 1 });
  const draft = $derived(editing.draft);
  const known = new Set(editing.original?.terms.map((t) => t.code));
  let codeTouched = false;

  function depth(term: Term): number {
    let steps = 0;
    for (let at: Term | undefined = term; at?.parent && steps < 20; steps++) at = draft.terms.find((t) => t.code === at!.parent);
    return steps;
  }
  function rename(index: number, label: string) {
    const term = draft.terms[index]!;
    if (!known.has(term.code)) {
      let code = codeOf(label) || `term_${index + 1}`;
      while (draft.terms.some((t, i) => i !== index && t.code === code)) code += '_';
      for (const below of draft.terms.filter((t) => t.parent === term.code)) below.parent = code;
      term.code = code;
    }
    term.label = label;
  }
  function add() {
    draft.terms.push({ code: `new_${draft.terms.length + 1}`, label: '', parent: draft.terms.at(-1)?.parent ?? null, synonyms: [] });
    // At once: the next key typed belongs to the new term.
    flushSync();
    document.getElementById(`term-${draft.terms.length - 1}`)?.focus();
  }
  function move(index: number, by: number) {
    const [term] = draft.terms.splice(index, 1);
    draft.terms.splice(index + by, 0, term!);
  }
  function indent(index: number) {
    const term = draft.terms[index]!;
    const level = depth(term);
    const above = draft.terms.slice(0, index).reverse().find((t) => depth(t) === level);
    if (above) term.parent = above.code;
  }
  function outdent(index: number) {
    const term = draft.terms[index]!;
    term.parent = draft.terms.find((t) => t.code === term.parent)?.parent ?? null;
  }
  function remove(index: number) {
    const [term] = draft.terms.splice(index, 1);
    for (const below of draft.terms.filter((t) => t.parent === term!.code)) below.parent = term!.parent;
  }
  function keydown(event: KeyboardEvent, index: number) {
    if (event.key === 'Enter' && !event.ctrlKey) {
      event.preventDefault();
      add();
    } else if (event.altKey && event.key === 'ArrowRight') indent(index);
    else if (event.altKey && event.key === 'ArrowLeft') outdent(index);
    else return;
    event.preventDefault();
  }
</script>

<EditorFrame {editing} title={draft.name} what="vocabulary">
  <TextRow label="Name" value={draft.name} fault={editing.faults.name} oninput={(v) => { draft.name = v; if (editing.isNew && !codeTouched) draft.code = codeOf(v); }} />
  <TextRow label="Code" mono value={draft.code} disabled={!editing.isNew} fault={editing.faults.code} oninput={(v) => { codeTouched = true; draft.code = v; }} />
  <h3 class="heading mt-2">Terms</h3>
  <ol>
    {#each draft.terms as term, i (term)}
      <li class="flex items-center gap-1 border-t border-hair py-0.5" style={`padding-left:${depth(term) * 22}px`}>
        <input class="input min-w-0 flex-1" title={`Code ${term.code}`} id={`term-${i}`} value={term.label} aria-label={`Term ${i + 1}`} oninput={(e) => rename(i, e.currentTarget.value)} onkeydown={(e) => keydown(e, i)} />
        <input class="input small" style="width:128px" placeholder="also called…" value={(term.synonyms ?? []).join(', ')} aria-label={`Other names of ${term.label || `term ${i + 1}`}, with commas between`} onchange={(e) => (term.synonyms = e.currentTarget.value.split(',').map((s) => s.trim()).filter(Boolean))} onkeydown={(e) => keydown(e, i)} />
        <button class="icon-btn" type="button" onclick={() => outdent(i)} disabled={!term.parent} aria-label={`${term.label} one level up`} title="One level up (Alt+←)"><IconIndentDecrease size={15} strokeWidth={1.7} /></button>
        <button class="icon-btn" type="button" onclick={() => indent(i)} disabled={i === 0} aria-label={`${term.label} below the term before it`} title="Below the term before it (Alt+→)"><IconIndentIncrease size={15} strokeWidth={1.7} /></button>
        <button class="icon-btn" type="button" onclick={() => move(i, -1)} disabled={i === 0} aria-label={`Move ${term.label} up`} title="Up"><IconArrowUp size={15} strokeWidth={1.7} /></button>
        <button class="icon-btn" type="button" onclick={() => move(i, 1)} disabled={i === draft.terms.length - 1} aria-label={`Move ${term.label} down`} title="Down"><IconArrowDown size={15} strokeWidth={1.7} /></button>
        <button class="icon-btn" type="button" onclick={() => remove(i)} aria-label={`Take out ${term.label}`} title="Take out"><IconX size={15} strokeWidth={1.7} /></button>
      </li>
    {/each}
  </ol>
  <button class="btn mt-2" type="button" onclick={add}><IconPlus size={14} strokeWidth={1.8} />Add a term</button>
  {#if editing.faults.terms}<p class="fault mt-1" role="alert">{editing.faults.terms}</p>{/if}
</EditorFrame>
