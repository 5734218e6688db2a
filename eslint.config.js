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
  {
    // Rules that know the types: a promise that nobody waits for, a value that is never what is asked of it.
    files: ['web/**/*.ts', 'web/**/*.svelte'],
    languageOptions: { parserOptions: { projectService: true, extraFileExtensions: ['.svelte'] } },
    rules: {
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/no-base-to-string': 'error',
      '@typescript-eslint/restrict-plus-operands': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      '@typescript-eslint/only-throw-error': 'error',
      '@typescript-eslint/prefer-promise-reject-errors': 'error',
      '@typescript-eslint/no-for-in-array': 'error',
    },
  },
  {
    // What is used everywhere knows nothing of the places that use it.
    files: ['web/state/**', 'web/parts/**', 'web/api/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['@/places/*', '@/places/**', '**/places/**'] }] },
  },
);
