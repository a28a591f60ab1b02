/** Unit tests: beside the code, plus the scripts' own. */
export default {
  roots: ['<rootDir>/src'],
  globalSetup: '<rootDir>/scripts/test-setup.mjs',
  // All cores: nothing else runs beside it.
  maxWorkers: '100%',
  // Looking these up in the test's sandbox makes loops up to a hundred times as slow.
  sandboxInjectedGlobals: [
    'Array',
    'Buffer',
    'Error',
    'Float32Array',
    'Float64Array',
    'Infinity',
    'Int32Array',
    'JSON',
    'Map',
    'Math',
    'Number',
    'Object',
    'Promise',
    'Set',
    'String',
    'Uint16Array',
    'Uint32Array',
    'Uint8Array',
    'Uint8ClampedArray',
  ],
  // A machine that is slow for a while is no fault of the program.
  testTimeout: 30_000,
  setupFilesAfterEnv: ['<rootDir>/jest.globals.cjs'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
  transform: {
    '^.+\\.m?(t|j)sx?$': [
      '@swc/jest',
      {
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
  // Packages that ship ES modules only.
  transformIgnorePatterns: ['/node_modules/(?!(clipper2-ts|comlink|d3-[a-z]+|internmap)/)'],
};
