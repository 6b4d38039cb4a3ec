import reactHooks from 'eslint-plugin-react-hooks';
import regexp from 'eslint-plugin-regexp';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['**/node_modules/', '**/dist/', '.tombolo/', '**/.expo/', 'apps/console/public/'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      'no-console': ['error', { allow: ['error'] }],
      eqeqeq: ['error', 'smart'],
    },
  },
  {
    // What comes from the air or the network meets these: none may take more than a time in proportion to its length.
    files: ['apps/**/*.{ts,tsx}', 'packages/**/*.ts'],
    ignores: ['**/*.test.{ts,tsx}', '**/testing/**'],
    plugins: { regexp },
    rules: { 'regexp/no-super-linear-backtracking': 'error', 'regexp/no-super-linear-move': 'error' },
  },
  { files: ['**/main.ts', 'bench/**', 'scripts/**'], rules: { 'no-console': 'off' } },
  { files: ['**/*.test.{ts,tsx}', '**/testing/**'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
  {
    files: ['apps/console/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'warn' },
  },
  {
    // The other rules compile every component, which takes most of the time; what tests render needs it least.
    files: ['apps/console/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}', '**/testing/**'],
    rules: reactHooks.configs.recommended.rules,
  },
  {
    // The look is owned by `src/ui`: what is laid out elsewhere says so by its properties. A map draws on an element of the browser.
    files: ['apps/console/**/*.tsx'],
    ignores: ['apps/console/src/ui/**', 'apps/console/src/places/chart/map/chart-map.tsx', '**/*.test.tsx'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'JSXAttribute[name.name="style"]:not([value.expression.name="filling"])',
          message: 'Lay it out by the properties of a piece of src/ui, or give src/ui the piece that is missing.',
        },
      ],
    },
  },
  { files: ['**/*.js'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
);
