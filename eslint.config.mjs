import { readdirSync } from 'node:fs';

import nextPlugin from '@next/eslint-plugin-next';
import boundaries from 'eslint-plugin-boundaries';
import reactHooks from 'eslint-plugin-react-hooks';
import regexp from 'eslint-plugin-regexp';
import tseslint from 'typescript-eslint';

/** Places whose screens stand alone; what they share is in `forms` and `frame`. */
const PLACES = readdirSync('src/features').filter((name) => !['forms', 'frame'].includes(name));

/** Arrows point inwards only: app → features → server → core; db is the server's; core is nobody's guest. */
const LAYERS = {
  app: ['features', 'server', 'ui', 'core', 'app'],
  features: ['features', 'server', 'ui', 'core', 'workers', 'clock'],
  server: ['server', 'db', 'core', 'clock', 'process'],
  db: ['db', 'core', 'process'],
  ui: ['ui', 'core', 'clock'],
  workers: ['core'],
  core: ['core'],
  // Days and hours as the shop has them: its zone is said once a request.
  clock: [],
  // What there is one of, however often a bundle has its module.
  process: [],
};

export default tseslint.config(
  {
    ignores: [
      '.next/**',
      '.next-test/**',
      '.local/**',
      'node_modules/**',
      'next-env.d.ts',
      'test-results/**',
    ],
  },
  ...tseslint.configs.recommended,
  {
    // A pattern that backtracks holds the server on a long text: 40,000 digits took 19 seconds.
    plugins: { regexp },
    rules: {
      'regexp/no-super-linear-backtracking': 'error',
      'regexp/no-super-linear-move': ['error', { report: 'certain' }],
      'regexp/no-misleading-capturing-group': 'error',
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { boundaries, '@next/next': nextPlugin },
    settings: {
      'boundaries/elements': Object.keys(LAYERS).map((type) => ({
        type,
        pattern: `src/${type}/**`,
        partialMatch: false,
      })),
      'import/resolver': { typescript: { alwaysTryTypes: true } },
    },
    rules: {
      ...nextPlugin.configs.recommended.rules,
      '@next/next/no-html-link-for-pages': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: Object.entries(LAYERS).map(([from, to]) => ({
            from: { element: { type: from } },
            allow: { to: { element: { type: to } } },
          })),
        },
      ],
    },
  },
  {
    // The server has use cases and no hooks.
    files: ['src/{app,features,ui}/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: reactHooks.configs.recommended.rules,
  },
  {
    files: ['src/**/*.test.{ts,tsx}'],
    rules: { 'boundaries/dependencies': 'off' },
  },
  {
    // Longer files, functions and components say in a comment why.
    files: ['src/**/*.ts'],
    ignores: ['src/**/*.test.ts'],
    rules: {
      'max-lines': ['error', { max: 300 }],
      'max-lines-per-function': ['error', { max: 80, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['src/**/*.tsx'],
    ignores: ['src/**/*.test.tsx'],
    rules: {
      'max-lines': ['error', { max: 300 }],
      'max-lines-per-function': ['error', { max: 150, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    // What runs in the browser takes types from the server, nothing that is loaded.
    files: ['src/features/**/*.{ts,tsx}', 'src/ui/**/*.{ts,tsx}'],
    ignores: [
      'src/**/*.test.{ts,tsx}',
      'src/features/**/*{Page,Panels,Context}.tsx',
      'src/features/**/{actions,sessionActs,load*,passPoints,runView}.ts',
      'src/features/forms/action.ts',
    ],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['@/server/**', '@/db/**'],
              allowTypeImports: true,
              message: 'Types only: this runs in the browser.',
            },
          ],
        },
      ],
    },
  },
  // Features do not import each other, and what is shared imports none of them.
  ...[...PLACES, null].map((place) => ({
    files: place ? [`src/features/${place}/**/*.{ts,tsx}`] : ['src/features/{forms,frame}/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: PLACES.filter((other) => other !== place).map((other) => ({
            group: [`@/features/${other}/**`, `../${other}/**`],
            message: 'What two places share goes to forms, frame or ui.',
          })),
        },
      ],
    },
  })),
  {
    // The addresses' shapes and answers are a leaf: only routes take them.
    files: ['src/server/**/*.ts', 'src/features/**/*.{ts,tsx}'],
    ignores: ['src/server/api/**', 'src/server/heavy/tasks.ts', 'src/**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'ImportDeclaration[source.value=/server\\u002Fapi\\u002F/]',
          message: 'Only routes import the addresses.',
        },
      ],
    },
  },
  {
    // The core has no interface, no server, no database, no clock and no dice.
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: [
                'react',
                'react-dom',
                'react-bootstrap',
                'next',
                'next/*',
                'drizzle-orm',
                'drizzle-orm/*',
                'pg',
              ],
              message: 'The core uses maths and parsing libraries, and shapes of what it reads, only.',
            },
          ],
        },
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Randomness is an argument.' },
        { object: 'Date', property: 'now', message: 'Time is an argument.' },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'fetch', 'localStorage', 'process'],
    },
  },
);
