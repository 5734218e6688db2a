<script lang="ts">
  import type { DocumentComment, Piece } from '@/api/types';
  import { moment } from '@/parts/format';
  import Pieces from '@/parts/Pieces.svelte';
  import { app } from '@/state/app.svelte';
  import { drafts } from '@/state/drafts';
  import { Whole } from '@/state/whole';

  /** What people say of a document or dossier. */
  interface Props {
    of: string;
    /** Whose comments they are: what is typed is kept under it. */
    key: string;
    /** What a search found in comments, by their number. */
    marks?: Record<number, Piece[]>;
    load: () => Promise<{ comments: DocumentComment[] }>;
    say: (text: string) => Promise<{ comments: DocumentComment[] }>;
    takeBack: (id: number) => Promise<{ comments: DocumentComment[] }>;
  }
  let { of, key, marks = {}, load, say, takeBack }: Props = $props();
  const id = $props.id();

  let comments = $state.raw<DocumentComment[]>([]);
  // svelte-ignore state_referenced_locally
  let text = $state(drafts.getItem(`comment:${key}`) ?? '');
  $effect(() => (text.trim() === '' ? drafts.removeItem(`comment:${key}`) : drafts.setItem(`comment:${key}`, text)));
  // svelte-ignore state_referenced_locally
  const all = new Whole(load, (got) => (comments = got.comments));
  all.read().catch(() => {});
  const change = (act: () => Promise<{ comments: DocumentComment[] }>) => all.change(act, (got) => got);

  async function add(event: SubmitEvent) {
    event.preventDefault();
    try {
      await change(() => say(text.trim()));
      text = '';
    } catch (error) {
      app.fail(error, 'The comment was not kept.');
    }
  }
  async function remove(comment: DocumentComment) {
    try {
      await change(() => takeBack(comment.id));
      app.say('The comment is removed.', {
        undo: () => change(() => say(comment.text)).catch((error: unknown) => app.fail(error, 'The comment did not come back.')),
      });
    } catch (error) {
      app.fail(error, 'The comment was not removed. Try again.');
    }
  }
</script>

<ul>
  {#each comments as comment (comment.id)}
    <li class="border-t border-hair py-1">
      <p class="whitespace-pre-wrap">
        {#if marks[comment.id]}<Pieces pieces={marks[comment.id]!} />{:else}{comment.text}{/if}
      </p>
      <p class="small quiet">
        {comment.by}, {moment(comment.at)}{#if comment.own}
          <button class="link ml-2" onclick={() => remove(comment)}>remove</button>{/if}
      </p>
    </li>
  {/each}
</ul>
<form class="border-t border-hair pt-1" onsubmit={add}>
  <label class="sr-only" for={id}>A comment</label>
  <textarea
    class="input"
    {id}
    rows={text ? 3 : 1}
    placeholder={`Comment on this ${of}`}
    bind:value={text}
    onkeydown={(e) => {
      if (e.key === 'Enter' && e.ctrlKey) e.currentTarget.form?.requestSubmit();
    }}></textarea>
  {#if text.trim()}<button class="btn mt-1">Comment</button>{/if}
</form>
