import js from '@eslint/js';
import globals from 'globals';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const noHigherRooms = (names) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: names.map((group) => ({ group: [group], message: 'The direction is web → core ← server.' })),
    },
  ],
});

export default ts.config(
  {
    ignores: ['**/dist/', '**/node_modules/', 'core/src/words/reader/grammar.*', 'data/', '**/test-results/'],
  },
  js.configs.recommended,
  ...ts.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: ['error', 'always'],
    },
  },
  { files: ['scripts/**/*.mjs'], languageOptions: { globals: globals.node } },
  {
    files: ['core/src/**/*.ts'],
    rules: noHigherRooms(['node:*', 'react*', 'express*', '@cordelina/server*', '@cordelina/web*']),
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { ...hooks.configs.recommended.rules, ...noHigherRooms(['node:*', '@cordelina/server*']) },
  },
  { files: ['**/test/**', 'e2e/**'], rules: { '@typescript-eslint/no-unused-expressions': 'off' } },
);
