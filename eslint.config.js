import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';
import { ownProperties } from './scripts/lint/own-properties.mjs';

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '.data/**',
      'apps/web/src/api/schema.d.ts',
      'test-results/**',
    ],
  },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', caughtErrorsIgnorePattern: '^_' },
      ],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/explicit-function-return-type': ['error', { allowExpressions: true }],
      '@typescript-eslint/no-floating-promises': ['error', { ignoreVoid: true }],
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    plugins: { oquel: { rules: { 'own-properties': ownProperties } } },
    rules: { 'oquel/own-properties': 'error' },
  },
  {
    files: ['packages/core/src/**/*.ts', 'apps/*/src/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'CallExpression[callee.property.name=/^(push|unshift|max|min)$/] > SpreadElement',
          message: 'Spreading a long list into arguments overflows the stack: use append, or a loop.',
        },
      ],
    },
  },
  {
    // More than five parameters by their place are told apart by nobody. What does a delivery has more: it allocates nothing.
    files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.{ts,tsx}'],
    ignores: [
      'packages/runtime/src/{effects,selection,serving,world-deliveries}.ts',
      'packages/core/src/rehearse/{effects,run,serving}.ts',
    ],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'CallExpression[callee.property.name=/^(push|unshift|max|min)$/] > SpreadElement',
          message: 'Spreading a long list into arguments overflows the stack: use append, or a loop.',
        },
        {
          selector:
            ':matches(FunctionDeclaration, ArrowFunctionExpression, MethodDefinition[kind!="constructor"] > FunctionExpression)[params.5]',
          message: 'More than five parameters: give those that belong together as an object.',
        },
      ],
    },
  },
  {
    files: ['apps/web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    languageOptions: { globals: globals.browser },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
    },
  },
  {
    // Nest reads the types of decorated parameters at run time, so they stay value imports.
    files: ['apps/server/src/**/*.ts'],
    rules: {
      '@typescript-eslint/consistent-type-imports': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
    },
  },
  {
    // What a server answers is what its tests look at; its shape is left open there.
    files: ['apps/server/test/**/*.ts'],
    rules: {
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
    },
  },
  { files: ['bench/**'], languageOptions: { globals: globals.browser } },
  { files: ['**/*.{js,mjs}'], languageOptions: { globals: globals.node } },
);
