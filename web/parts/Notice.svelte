<script lang="ts">
  import { app } from '@/state/app.svelte';
</script>

<div role="status" aria-live="polite">
  {#if app.notice}
    <div class="fixed right-4 bottom-4 z-50 flex items-center gap-4 rounded-[3px] bg-ink px-4 py-2 text-paper shadow-lg">
      <span>{app.notice.text}</span>
      {#if app.notice.undo}
        <button
          class="font-semibold underline"
          title="Also under Last acts (u)"
          onclick={() => {
            app.notice?.undo?.();
            app.notice = null;
          }}>Undo</button
        >
      {/if}
    </div>
  {/if}
</div>
