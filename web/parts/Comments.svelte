<script lang="ts">
  import type { DocumentComment } from '@/api/types';
  import { moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  /** What people say of a document or dossier. */
  interface Props {
    of: string;
    load: () => Promise<{ comments: DocumentComment[] }>;
    say: (text: string) => Promise<{ comments: DocumentComment[] }>;
    takeBack: (id: number) => Promise<{ comments: DocumentComment[] }>;
  }
  let { of, load, say, takeBack }: Props = $props();
  const id = $props.id();

  let comments = $state.raw<DocumentComment[]>([]);
  let text = $state('');
  // svelte-ignore state_referenced_locally
  void load().then((got) => (comments = got.comments), () => {});

  async function add(event: SubmitEvent) {
    event.preventDefault();
    try {
      comments = (await say(text.trim())).comments;
      text = '';
    } catch (error) {
      app.fail(error, 'The comment was not kept.');
    }
  }
  async function remove(comment: DocumentComment) {
    comments = (await takeBack(comment.id)).comments;
    app.say('The comment is taken back.', { undo: () => void say(comment.text).then((got) => (comments = got.comments)) });
  }
</script>

<ul>
  {#each comments as comment (comment.id)}
    <li class="border-t border-hair py-1"><p class="whitespace-pre-wrap">{comment.text}</p><p class="small quiet">{comment.by}, {moment(comment.at)}{#if comment.own} <button class="link ml-2" onclick={() => remove(comment)}>take back</button>{/if}</p></li>
  {/each}
</ul>
<form class="border-t border-hair pt-1" onsubmit={add}>
  <label class="sr-only" for={id}>A comment</label>
  <textarea class="input" {id} rows={text ? 3 : 1} placeholder={`Say something of this ${of}`} bind:value={text} onkeydown={(e) => { if (e.key === 'Enter' && e.ctrlKey) e.currentTarget.form?.requestSubmit(); }}></textarea>
  {#if text.trim()}<button class="btn mt-1">Comment</button>{/if}
</form>
