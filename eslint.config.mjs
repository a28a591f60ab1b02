import next from '@next/eslint-plugin-next';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Rules between rooms: which folder may import what. Each pattern is refused with its reason. */
const refuse = (files, group, message) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group, message }] }] },
});
const ROOMS = [
  'app',
  'ui',
  'store',
  'workers',
  'cli',
  'link',
  'lan',
  'serve',
  'understudy',
  'rehearsal',
  'photo',
];
const from = (...rooms) => rooms.flatMap((room) => [`**/${room}/**`, `@/${room}/**`]);
/** Folders of the core, lowest first: each may use those before it. */
const HOUSE = [
  'dialect',
  'bench',
  'shape',
  'plan',
  'deposit',
  'gcode',
  'motion',
  'ladders',
  'reading',
  'route',
  'view',
  'graft',
  'shake',
  'loupe',
];
/** What only types can tell: promises that nobody waits for, and values that nobody knows the type of. */
const TYPED = Object.fromEntries(
  [
    'no-floating-promises',
    'no-misused-promises',
    'await-thenable',
    'no-unnecessary-type-assertion',
    'no-unsafe-argument',
    'no-unsafe-assignment',
    'no-unsafe-call',
    'no-unsafe-member-access',
    'no-unsafe-return',
    'only-throw-error',
  ].map((name) => [`@typescript-eslint/${name}`, 'error']),
);
const PLATFORM = [
  'react',
  'react-dom',
  'next',
  'next/**',
  'node:*',
  'fs',
  'path',
  'better-sqlite3',
];

export default tseslint.config(
  {
    ignores: [
      '.next/**',
      'dist/**',
      'dist.*/**',
      'release/**',
      'node_modules/**',
      'next-env.d.ts',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  ...tseslint.configs.recommended,
  {
    // Where React is: each file elsewhere would be compiled for nothing.
    files: ['src/ui/**', 'src/app/**'],
    plugins: { 'react-hooks': hooks },
    rules: hooks.configs.recommended.rules,
  },
  {
    plugins: { '@next/next': next },
    rules: {
      ...next.configs.recommended.rules,
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      'max-lines': ['error', { max: 500, skipBlankLines: true }],
    },
  },
  {
    files: ['**/*.ts', '**/*.tsx'],
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
    rules: TYPED,
  },
  refuse(
    ['src/core/**'],
    [...from(...ROOMS), ...PLATFORM],
    'The core imports only itself and general libraries.',
  ),
  ...HOUSE.map((folder, i) => ({
    files: [`src/core/${folder}/**`],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: [...from(...ROOMS), ...PLATFORM],
              message: 'The core imports only itself and general libraries.',
            },
            {
              group: HOUSE.slice(i + 1).map((above) => `../**/${above}/**`),
              message: `Folders of the core know only those below them: ${HOUSE.slice(0, i).join(', ') || 'none'}.`,
            },
          ].filter(({ group }) => group.length > 0),
        },
      ],
    },
  })),
  refuse(
    ['src/core/**/*.test.ts'],
    from(...ROOMS),
    'Tests of the core may read files, but know no other room.',
  ),
  {
    files: ['src/core/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'process', 'window', 'document', 'fetch'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Chance takes a seed: core/random.ts.' },
        { object: 'Date', property: 'now', message: 'Dates come in as arguments.' },
      ],
    },
  },
  refuse(
    ['src/store/**'],
    from('app', 'ui', 'workers', 'cli', 'link', 'lan', 'serve', 'understudy'),
    'The store imports core alone.',
  ),
  refuse(
    ['src/lan/**'],
    from('app', 'ui', 'workers', 'cli', 'link', 'serve', 'understudy', 'rehearsal'),
    'The door of phones imports core and store alone.',
  ),
  {
    ...refuse(
      ['src/link/**'],
      [
        ...from('app', 'ui', 'store', 'workers', 'cli', 'lan', 'serve', 'understudy', 'rehearsal'),
        // Where the bytes of files lie.
        '!**/store/bytes',
      ],
      'The link imports core alone; the understudy meets it on a socket.',
    ),
    // Its tests bring the machine and the store along.
    ignores: ['src/link/**/*.test.ts', 'src/link/testing/**'],
  },
  refuse(
    ['src/serve/**'],
    from('app', 'ui', 'workers', 'cli', 'understudy', 'rehearsal', 'photo'),
    'What serves starts the rooms above it as processes.',
  ),
  refuse(
    ['src/understudy/**'],
    [...from('app', 'ui', 'workers', 'cli', 'link', 'store', 'lan', 'serve'), '**/core/ladders/**'],
    'The understudy knows only text.',
  ),
  refuse(
    ['src/ui/**'],
    from('store', 'cli', 'link', 'understudy', 'rehearsal', 'lan', 'serve'),
    'Parts take plain data and callbacks.',
  ),
  refuse(
    ['src/workers/**'],
    from('app', 'ui', 'store', 'cli', 'lan', 'serve'),
    'Workers are thin shells around core.',
  ),
  refuse(
    ['src/rehearsal/**'],
    from('app', 'ui', 'store', 'workers', 'cli', 'lan', 'serve'),
    'The rehearsal joins core, understudy and link, and nothing else.',
  ),
  refuse(
    ['src/cli/**'],
    from('app', 'ui', 'store', 'workers', 'lan', 'serve'),
    'The command uses the core without a browser.',
  ),
);
