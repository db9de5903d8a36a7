import js from '@eslint/js';
import globals from 'globals';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const noHigherRooms = (names) => ({
  'no-restricted-imports': [
    'error',
    {
      patterns: names.map((group) => ({
        group: [group],
        message: 'The direction is web → core ← server, and inside core from the higher folder to the lower.',
      })),
    },
  ],
});

/** Folders of core from the lowest up: none imports one above it. */
const FOLDERS = [
  'measures',
  'stitches',
  'construction',
  'chart',
  'needle',
  'ropes',
  'checks',
  'names',
  'words',
  'machine',
  'fabric',
  'sizes',
  'piece',
  'knitting',
  'documents',
  'api',
  'drawing',
  'tracing',
  'cloth',
  'sheet',
  'workroom',
  'files',
];

/** Rooms of the page, which stand beside each other and on what all share. */
const ROOMS = [
  'bench',
  'cloth',
  'import',
  'machine',
  'needles',
  'setting-out',
  'swatches',
  'words',
  'workroom',
];
/** What rooms share, from the lowest up. */
const SHARED = ['workers', 'ui', 'sync', 'desk'];

const pageInOrder = [
  ...ROOMS.map((room) => [room, ROOMS.filter((other) => other !== room)]),
  ...SHARED.map((folder, i) => [folder, [...ROOMS, ...SHARED.slice(i + 1)]]),
].map(([folder, others]) => ({
  files: [`web/src/${folder}/**/*.{ts,tsx}`],
  rules: noHigherRooms(['node:*', '@cordelina/server*', ...others.map((other) => `**/${other}/**`)]),
}));

const foldersInOrder = FOLDERS.map((folder, i) => ({
  files: [`core/src/${folder}/**/*.ts`],
  rules: noHigherRooms([
    'node:*',
    'react*',
    'express*',
    '@cordelina/*',
    ...FOLDERS.slice(i + 1).map((above) => `**/${above}/*`),
  ]),
}));

/** The fields of the repeats, which their owner alone reads. */
const FRAME = [
  'MemberExpression[property.name=/^(across|up)$/]',
  'ObjectPattern > Property[key.name=/^(across|up)$/]',
].map((selector) => ({
  selector,
  message: 'The fields of the repeats are read by chart/frame alone: ask it.',
}));

/** A way of working asked for by its id, compared, looked up or listed once more. */
const WAY_IDS = '/^(flat|round|double|double-round)$/';
const WAYS = [
  'BinaryExpression:has(> MemberExpression[property.name="construction"]):has(> Literal)',
  'BinaryExpression:has(> Identifier[name="construction"]):has(> Literal)',
  'BinaryExpression > Literal[value="flat"]',
  'BinaryExpression > MemberExpression[object.name=/^(FLAT|ROUND)$/]',
  'SwitchStatement[discriminant.property.name="construction"]',
  `CallExpression[callee.property.name="enum"] > ArrayExpression > Literal[value=${WAY_IDS}]`,
  `ObjectExpression > Property[key.name="construction"] > Literal[value=${WAY_IDS}]`,
].map((selector) => ({
  selector,
  message: 'What follows from a way of working is asked of construction/, never which it is.',
}));

const owned = (...rules) => ({ 'no-restricted-syntax': ['error', ...rules.flat()] });

/** Rules of style that what is made by a tool keeps none of. */
const GRAMMAR_FREE = Object.fromEntries(
  [js.configs.recommended, ...ts.configs.strict].flatMap(({ rules = {} }) =>
    Object.keys(rules).map((rule) => [rule, 'off']),
  ),
);

/** What the types are asked about too: what waits for something. The core is plain calls. */
const TYPED = ['{server,web,cli}/src/**/*.{ts,tsx}', '{server,cli}/test/**/*.ts', 'e2e/*.ts'];

export default ts.config(
  {
    ignores: [
      '**/dist/',
      '**/node_modules/',
      'core/src/words/reader/grammar.d.ts',
      'data/',
      '**/test-results/',
    ],
  },
  js.configs.recommended,
  ...ts.configs.strict,
  ...ts.configs.recommendedTypeCheckedOnly.map((config) => ({
    ...config,
    files: TYPED,
  })),
  {
    files: TYPED,
    languageOptions: { parserOptions: { projectService: true } },
  },
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: ['error', 'always'],
    },
  },
  { files: ['web/public/*.js'], languageOptions: { globals: globals.serviceworker } },
  { files: ['scripts/**/*.mjs', 'cli/*.mjs'], languageOptions: { globals: globals.node } },
  {
    files: ['core/src/**/*.ts'],
    rules: noHigherRooms(['node:*', 'react*', 'express*', '@cordelina/server*', '@cordelina/web*']),
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { ...hooks.configs.recommended.rules, ...noHigherRooms(['node:*', '@cordelina/server*']) },
  },
  ...foldersInOrder,
  ...pageInOrder,
  { files: ['{core,web,server,cli}/src/**/*.{ts,tsx}'], rules: owned(FRAME, WAYS) },
  {
    // The fields themselves, their steps, and the proof, which reads them by itself on purpose.
    files: [
      'core/src/chart/{frame,repeat-lines,steps,edits}.ts',
      'core/src/words/proof/charted.ts',
      'core/src/piece/proof-rows.ts',
    ],
    rules: owned(WAYS),
  },
  { files: ['core/src/construction/*.ts'], rules: { 'no-restricted-syntax': 'off' } },
  {
    files: ['**/test/**', 'e2e/**'],
    rules: {
      '@typescript-eslint/no-unused-expressions': 'off',
      '@typescript-eslint/no-base-to-string': 'off',
      '@typescript-eslint/unbound-method': 'off',
      // Answers of a server are looked into without being given a type first.
      ...Object.fromEntries(
        ['member-access', 'assignment', 'argument', 'call', 'return'].map((what) => [
          `@typescript-eslint/no-unsafe-${what}`,
          'off',
        ]),
      ),
    },
  },
  {
    // Made from the grammar: an action of it may name nothing that it does not bind.
    files: ['core/src/words/reader/grammar.js'],
    rules: {
      ...GRAMMAR_FREE,
      'no-undef': 'error',
    },
  },
);
