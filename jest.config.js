/** Unit and reference tests: native ES modules through swc. `npm run unit`. */
export default {
  testMatch: ['<rootDir>/tests/**/*.test.{ts,tsx}'],
  testPathIgnorePatterns: ['/node_modules/', '<rootDir>/tests/browser/'],
  setupFiles: ['<rootDir>/tests/setup.ts'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  moduleNameMapper: { '^~/(.*)$': '<rootDir>/$1' },
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2023',
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'es6' },
      },
    ],
  },
  // A command of the command line starts a process of its own.
  testTimeout: 60_000,
  cacheDirectory: '<rootDir>/.cache/jest',
  // Every core: on two, jest would leave one idle.
  maxWorkers: '100%',
};
