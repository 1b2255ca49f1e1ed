/** Unit and API tests run on the TypeScript sources; `npm test` also runs the browser tests in `e2e`. */
export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/packages', '<rootDir>/apps', '<rootDir>/scripts'],
  testMatch: ['**/test/**/*.test.ts'],
  extensionsToTreatAsEsm: ['.ts'],
  moduleNameMapper: {
    '^@oquel/runtime$': '<rootDir>/packages/runtime/src/index.ts',
    '^@oquel/runtime/rehearsals$': '<rootDir>/packages/runtime/src/rehearsals.ts',
    '^@oquel/core$': '<rootDir>/packages/core/src/index.ts',
    '^(\\.{1,2}/.*)\\.js$': '$1',
  },
  transform: {
    '^.+\\.ts$': [
      '@swc/jest',
      {
        module: { type: 'es6' },
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', decorators: true },
          transform: { legacyDecorator: true, decoratorMetadata: true },
        },
      },
    ],
  },
  testTimeout: 60_000,
};
