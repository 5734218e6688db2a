import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import laravel from 'laravel-vite-plugin';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [laravel({ input: ['web/main.ts'], refresh: false }), tailwindcss(), svelte()],
  resolve: { alias: { '@': new URL('./web', import.meta.url).pathname } },
  build: { chunkSizeWarningLimit: 1500 },
});
