import svelte from 'eslint-plugin-svelte';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['public/**', 'vendor/**', 'node_modules/**', 'web/api/schema.ts'] },
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  {
    files: ['**/*.svelte', '**/*.svelte.ts'],
    languageOptions: { parserOptions: { parser: ts.parser } },
    // The application has its own router, not SvelteKit's.
    rules: { 'svelte/no-navigation-without-resolve': 'off' },
  },
);
