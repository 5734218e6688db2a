<script lang="ts">
  import { moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { lists } from '@/state/lists.svelte';
  import { router } from '@/state/router.svelte';

  let name = $state('');
  void lists.load();
  async function make(event: SubmitEvent) {
    event.preventDefault();
    try {
      router.go(`/lists/${(await lists.make(name.trim())).id}`);
    } catch (error) {
      app.fail(error, 'It could not be made.');
    }
  }
</script>

<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-[900px] px-6 py-5">
    <h1 class="text-[26px]">Pull lists</h1>
    <p class="quiet mt-1">Documents put together to be read, held, handed over or delivered.</p>
    <form class="mt-3 flex max-w-md items-end gap-3" onsubmit={make}>
      <div class="flex-1">
        <label class="heading" for="list-name">A new list</label><input
          class="input"
          id="list-name"
          bind:value={name}
          maxlength="200"
          autocomplete="off"
        />
      </div>
      <button class="btn btn-main" disabled={name.trim() === ''}>Create list</button>
    </form>
    <ul class="mt-5">
      {#each lists.all as list (list.id)}
        <li class="flex items-baseline gap-4 border-t border-hair py-2">
          <div class="min-w-0 flex-1">
            <a class="font-serif text-[17px]" href={`/lists/${list.id}`}>{list.name}</a>{#if list.hold}<span
                class="small ml-2 text-rust"
                title={list.hold.reason}>on hold</span
              >{/if}{#if list.frozen_at}<span class="small quiet ml-2">frozen</span>{/if}{#if list.search}<span class="small quiet ml-2"
                >adds new matches</span
              >{/if}
            <p class="small quiet truncate">{list.own ? '' : `${list.by}. `}{list.note}</p>
          </div>
          {#if list.may_change}<button class="link small" aria-pressed={lists.current?.id === list.id} onclick={() => lists.choose(list.id)}
              >{lists.current?.id === list.id ? 'current list' : 'make it the current list'}</button
            >{/if}
          <span class="small quiet w-28 text-right">{moment(list.updated_at)}</span><span class="num w-28"
            >{plural(list.documents, 'document', 'documents')}</span
          >
        </li>
      {:else}
        {#if lists.known}<li class="quiet border-t border-hair py-3">
            No list yet. In Find, press <kbd>a</kbd> on a document to add it, or create a list here first.
          </li>{/if}
      {/each}
    </ul>
    <p class="mt-6"><a href="/lists/outbox">Outbox</a> <span class="small quiet">messages in which lists were delivered</span></p>
    {#if app.person?.may.remove}<p class="mt-1">
        <a href="/lists/removed">Removed documents</a> <span class="small quiet">hidden from everyone; can be brought back</span>
      </p>{/if}
  </div>
</div>
