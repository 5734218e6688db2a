import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';

/** Logic of the interface that needs no page. */
export default defineConfig({
  plugins: [svelte()],
  resolve: { alias: { '@': new URL('./web', import.meta.url).pathname } },
  test: { include: ['web/**/*.test.ts'], environment: 'node' },
});
