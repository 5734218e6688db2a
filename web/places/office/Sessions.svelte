<script lang="ts">
  import { api } from '@/api/client';
  import type { SignedInSession } from '@/api/types';
  import { Attempt } from '@/parts/attempt.svelte';
  import { moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  /** Where somebody is signed in. */
  let sessions = $state.raw<SignedInSession[] | null>(null);
  const attempt = new Attempt();
  const fault = $derived(attempt.faults.all);

  async function act(what: () => Promise<{ sessions: SignedInSession[] }>, says = '') {
    const show = async () => void ({ sessions } = await what());
    if ((await attempt.run(show, 'all', 'The sessions cannot be shown. Try again.')) && says) app.say(says);
  }
  void act(() => api.mySessions());
</script>

{#if sessions}
  <ul class="py-1">
    {#each sessions as s (s.id)}
      <li class="flex items-baseline gap-3 border-t border-hair py-1 first:border-t-0">
        <span class="flex-1"
          >{s.browser}{#if s.stays}<span class="small quiet">, stays signed in</span>{/if}
          <span class="small quiet block"
            >{s.address}, since {moment(s.begun_at)}{#if !s.is_this}, last used {moment(s.seen_at)}{/if}</span
          ></span
        >
        {#if s.is_this}<span class="small quiet">this one</span>{:else}<button
            class="link"
            onclick={() => act(() => api.endMySession(s.id))}
            aria-label={`End the session of ${s.browser}, since ${moment(s.begun_at)}`}>End</button
          >{/if}
      </li>
    {/each}
  </ul>
  {#if sessions.length > 1}<button class="btn" onclick={() => act(() => api.endMySessions(), 'You are signed out everywhere else.')}
      >Sign out everywhere else</button
    >{/if}
{:else if !fault}<p class="quiet py-1">Loading…</p>{/if}
{#if fault}<p class="fault" role="alert">{fault}</p>{/if}
