<script lang="ts">
  import Factor from './Factor.svelte';
</script>

<!-- What stands before everything else where the office wants a second factor of everybody. -->
<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-xl p-8">
    <h1 class="text-[26px]">A second factor first</h1>
    <p class="quiet mt-1 mb-3">The office wants one of everybody. It takes a minute, and a program on your telephone that shows codes.</p>
    <Factor />
  </div>
</div>
