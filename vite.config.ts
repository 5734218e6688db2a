import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import laravel from 'laravel-vite-plugin';
import { cpSync } from 'node:fs';
import { defineConfig, type Plugin } from 'vite';

/** PDFs that do not carry their fonts are drawn with those of pdf.js, which ship with the application. */
const pdfFonts: Plugin = {
  name: 'pdf-fonts',
  closeBundle: () => {
    for (const folder of ['standard_fonts', 'cmaps', 'wasm'])
      cpSync(`node_modules/pdfjs-dist/${folder}`, `public/build/pdf/${folder}`, { recursive: true });
  },
};

export default defineConfig({
  plugins: [laravel({ input: ['web/main.ts'], refresh: false }), tailwindcss(), svelte(), pdfFonts],
  resolve: { alias: { '@': new URL('./web', import.meta.url).pathname } },
  build: { chunkSizeWarningLimit: 1500 },
});
