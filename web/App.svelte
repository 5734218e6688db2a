<script lang="ts">
  import { app, looksOver } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { ApiError } from '@/api/client';
  import Band from '@/parts/Band.svelte';
  import LastActs from '@/parts/LastActs.svelte';
  import Notice from '@/parts/Notice.svelte';
  import Shortcuts from '@/parts/Shortcuts.svelte';
  import SignInAgain from '@/parts/SignInAgain.svelte';
  import SignIn from '@/places/sign-in/SignIn.svelte';
  import Desk from '@/places/desk/Desk.svelte';
  import Find from '@/places/find/Find.svelte';

  let fault = $state('');
  app.start().catch((error: unknown) => {
    // A session that was ended elsewhere is none: the form to sign in is there.
    if (!(error instanceof ApiError && error.status === 401))
      fault = error instanceof ApiError ? error.message : 'Brenvic cannot be reached.';
    app.known = true;
  });

  const place = $derived(router.parts[0] ?? 'desk');
  const names: Record<string, string> = {
    desk: 'Desk',
    find: 'Find',
    intake: 'Intake',
    tasks: 'Tasks',
    design: 'Design',
    documents: 'Reading',
    dossiers: 'Dossiers',
    lists: 'Pull lists',
    office: 'Office',
    oversight: 'Oversight',
    me: 'Your settings',
  };
  $effect(() => {
    document.title = app.person ? `${names[place] ?? 'Page not found'} · Brenvic` : 'Brenvic';
  });
</script>

{#if fault}
  <main class="p-10">
    <h1 class="text-xl">Brenvic</h1>
    <p class="fault mt-2">{fault}</p>
  </main>
{:else if !app.known}
  <p class="quiet p-10" role="status">Loading…</p>
{:else if !app.person || !app.design}
  <SignIn />
{:else}
  <div class="flex h-full flex-col">
    <Band {place} />
    <!-- Nothing within makes the window itself scroll, not even what only screen readers see. -->
    <main class="relative min-h-0 flex-1 overflow-clip" id="place">
      {#if app.person.factor.is_wanted && !app.person.factor.is_on}
        {#await import('@/places/office/Wanted.svelte') then { default: Wanted }}<Wanted />{/await}
      {:else if place === 'desk'}
        <Desk />
      {:else if place === 'find'}
        <Find />
      {:else if place === 'documents' && router.parts[2] === 'compare'}
        {#await import('@/places/read/Compare.svelte') then { default: Compare }}
          {#key router.parts[1]}<Compare document={router.parts[1]!} />{/key}
        {/await}
      {:else if place === 'documents' && router.parts[2] === 'pages'}
        {#await import('@/places/read/Arrange.svelte') then { default: Arrange }}
          {#key router.parts[1]}<Arrange document={router.parts[1]!} />{/key}
        {/await}
      {:else if place === 'documents' && router.parts[1]}
        {#await import('@/places/read/Reader.svelte') then { default: Reader }}
          {#key `${router.parts[1]} ${router.params.get('version') ?? ''}`}<Reader document={router.parts[1]} />{/key}
        {/await}
      {:else if place === 'lists' && router.parts[1] === 'removed'}
        {#await import('@/places/lists/Removed.svelte') then { default: Removed }}<Removed />{/await}
      {:else if place === 'lists' && router.parts[1] === 'outbox'}
        {#await import('@/places/lists/Outbox.svelte') then { default: Outbox }}<Outbox />{/await}
      {:else if place === 'lists' && router.parts[1]}
        {#await import('@/places/lists/List.svelte') then { default: List }}
          {#key router.parts[1]}<List id={Number(router.parts[1])} />{/key}
        {/await}
      {:else if place === 'lists'}
        {#await import('@/places/lists/Lists.svelte') then { default: Lists }}<Lists />{/await}
      {:else if place === 'dossiers' && router.parts[1]}
        {#await import('@/places/dossiers/Dossier.svelte') then { default: Dossier }}
          {#key router.parts[1]}<Dossier dossier={router.parts[1]} />{/key}
        {/await}
      {:else if place === 'dossiers'}
        {#await import('@/places/dossiers/Dossiers.svelte') then { default: Dossiers }}<Dossiers />{/await}
      {:else if place === 'intake' && router.parts[1] === 'pages' && app.person.may.file}
        {#await import('@/places/intake/Sort.svelte') then { default: Sort }}
          {#key router.parts[2]}<Sort of={router.parts[2] ?? ''} />{/key}
        {/await}
      {:else if place === 'intake' && app.person.may.file}
        {#await import('@/places/intake/Intake.svelte') then { default: Intake }}<Intake />{/await}
      {:else if place === 'tasks' && router.parts[1] === 'figures'}
        {#await import('@/places/tasks/Figures.svelte') then { default: Figures }}<Figures />{/await}
      {:else if place === 'tasks'}
        {#await import('@/places/tasks/Tasks.svelte') then { default: Tasks }}<Tasks />{/await}
      {:else if place === 'oversight' && (looksOver(app.person) || router.parts[1] === 'holds')}
        {#await import('@/places/oversight/Oversight.svelte') then { default: Oversight }}<Oversight />{/await}
      {:else if place === 'office' && app.person.may.administer}
        {#await import('@/places/office/Office.svelte') then { default: Office }}<Office />{/await}
      {:else if place === 'me'}
        {#await import('@/places/office/Me.svelte') then { default: Me }}<Me />{/await}
      {:else if place === 'design' && app.person.may.design}
        {#await import('@/places/design/Design.svelte') then { default: Design }}<Design />{/await}
      {:else}
        <div class="mx-auto max-w-xl p-10">
          <h1 class="text-2xl">Page not found</h1>
          <p class="quiet mt-2">This page does not exist, or you may not see it. <a href="/desk">Go to your desk</a>.</p>
        </div>
      {/if}
    </main>
  </div>
  <Shortcuts />
  <LastActs />
  <SignInAgain />
{/if}
<Notice />
