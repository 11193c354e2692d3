const letThrough = ['d3', 'd3-[^/]+', 'internmap', 'delaunator', 'robust-predicates', 'saxes', 'xmlchars'];

/** @type {import('jest').Config} */
module.exports = {
  // A slow, busy machine is no failure; nothing here is a timed test.
  testTimeout: 60_000,
  testEnvironment: 'node',
  // Both cores: nobody else needs them while the tests run.
  maxWorkers: '100%',
  roots: ['<rootDir>/src'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
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
