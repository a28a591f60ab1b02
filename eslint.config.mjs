import next from '@next/eslint-plugin-next';
import hooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Rules between rooms: which folder may import what. Each pattern is refused with its reason. */
const refuse = (files, group, message) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group, message }] }] },
});
const ROOMS = ['app', 'ui', 'store', 'workers', 'cli', 'link', 'understudy', 'rehearsal'];
const from = (...rooms) => rooms.flatMap((room) => [`**/${room}/**`, `@/${room}/**`]);
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
      'node_modules/**',
      'next-env.d.ts',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  ...tseslint.configs.recommended,
  {
    plugins: { 'react-hooks': hooks, '@next/next': next },
    rules: {
      ...hooks.configs.recommended.rules,
      ...next.configs.recommended.rules,
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      'max-lines': ['error', { max: 500, skipBlankLines: true }],
    },
  },
  refuse(
    ['src/core/**'],
    [...from(...ROOMS), ...PLATFORM],
    'The core imports only itself and general libraries.',
  ),
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
    from('app', 'ui', 'workers', 'cli', 'link', 'understudy'),
    'The store imports core alone.',
  ),
  refuse(
    ['src/understudy/**'],
    [...from('app', 'ui', 'workers', 'cli', 'link', 'store'), '**/core/ladders/**'],
    'The understudy knows only text.',
  ),
  refuse(
    ['src/link/**'],
    from('app', 'ui', 'workers', 'cli', 'store', 'understudy'),
    'The link imports core alone.',
  ),
  refuse(
    ['src/ui/**'],
    from('store', 'cli', 'link', 'understudy', 'rehearsal'),
    'Parts take plain data and callbacks.',
  ),
  refuse(
    ['src/workers/**'],
    from('app', 'ui', 'store', 'cli'),
    'Workers are thin shells around core.',
  ),
  refuse(
    ['src/rehearsal/**'],
    from('app', 'ui', 'store', 'workers', 'cli', 'link'),
    'The rehearsal joins core and understudy, and nothing else.',
  ),
  refuse(
    ['src/cli/**'],
    from('app', 'ui', 'store', 'workers'),
    'The command uses the core without a browser.',
  ),
);
