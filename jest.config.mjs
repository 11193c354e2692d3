import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

const letThrough = [
  'd3',
  'd3-[^/]+',
  'internmap',
  'delaunator',
  'robust-predicates',
  'saxes',
  'xmlchars',
  'clipper2-ts',
];

/** Tests that ask for a database: they say so by taking one. */
const testsIn = (folder) =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.test\.tsx?$/.test(name))
    .map((name) => join(folder, name));
const withDatabase = testsIn('src').filter((file) => readFileSync(file, 'utf8').includes('@test/database'));

const common = {
  testEnvironment: 'node',
  // What there is one of in a process hangs on the global object, which each test file has for itself.
  testEnvironmentOptions: { globalsCleanup: 'off' },
  // Looked up in the sandbox's own global object they cost more than the arithmetic. (Not Map and Infinity: icons are called so.)
  sandboxInjectedGlobals: [
    ...['Math', 'Number', 'Array', 'Object', 'Set', 'String', 'Symbol', 'JSON', 'Error'],
    ...['Float64Array', 'Float32Array', 'Uint8Array', 'Uint8ClampedArray', 'Uint32Array', 'Int32Array'],
  ],
  roots: ['<rootDir>/src'],
  transform: {
    '^.+\\.(t|j|mj)sx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
  },
  transformIgnorePatterns: [`/node_modules/(?!(${letThrough.join('|')})/)`],
  moduleNameMapper: {
    '^@/(.*)$': '<rootDir>/src/$1',
    '^@test/(.*)$': '<rootDir>/test/$1',
    '^server-only$': '<rootDir>/test/empty.ts',
    '\\.css$': '<rootDir>/test/empty.ts',
  },
};

const inRoot = (file) => `<rootDir>/${file}`;

/** @type {import('jest').Config} */
export default {
  // A slow, busy machine is no failure; nothing here is a timed test.
  testTimeout: 300_000,
  // Both cores: nobody else needs them while the tests run.
  maxWorkers: '100%',
  projects: [
    {
      ...common,
      displayName: 'core',
      testMatch: ['**/*.test.ts', '**/*.test.tsx'],
      testPathIgnorePatterns: ['/node_modules/', ...withDatabase.map((file) => `${file}$`)],
    },
    { ...common, displayName: 'database', testMatch: withDatabase.map(inRoot) },
  ],
};
