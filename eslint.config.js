import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Import walls of docs/architecture.md; dependency-cruiser checks circles and dynamic imports as well. */
const wall = (files, patterns) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns }] },
});

export default tseslint.config(
  { ignores: ['node_modules', 'build/**', '.react-router', '.cache', 'public', 'test-results', 'playwright-report'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-dynamic-delete': 'off',
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  { files: ['app/**/*.{ts,tsx}'], ...reactHooks.configs.flat['recommended-latest'] },
  {
    files: ['scripts/**', 'tests/**', '*.{js,ts,cjs}', '.dependency-cruiser.cjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        setTimeout: 'readonly',
        fetch: 'readonly',
        module: 'writable',
      },
    },
    rules: { 'no-console': 'off' },
  },
  {
    files: ['core/**'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'localStorage', 'fetch'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
    },
  },
  {
    // A number of the model has a name, its source beside the name; a turn, a minute and powers of ten are nobody's choice.
    files: ['core/circuit/**', 'core/power/**', 'core/netlist/**'],
    ignores: [
      'core/circuit/figures.ts',
      'core/power/battery-figures.ts',
      'core/power/fuse.ts',
      'core/netlist/revisions.ts',
    ],
    rules: {
      '@typescript-eslint/no-magic-numbers': [
        'error',
        {
          ignore: [-1, 0, 1, 2, 60, 100, 360, 1000],
          detectObjects: true,
          ignoreNumericLiteralTypes: true,
          ignoreReadonlyClassProperties: true,
        },
      ],
    },
  },
  {
    files: ['core/**', 'app/**', 'scripts/**'],
    ignores: ['core/ends/**', 'core/build/migrations/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...[
          'Literal[value=/^(ecu|dev|fuse|relay|splice|gnd|bat|key):/]',
          'TemplateElement[value.raw=/^(ecu|dev|fuse|relay|splice|gnd|bat|key):/]',
        ].map((selector) => ({ selector, message: 'ends are spelled in core/ends only: make one with its functions' })),
        {
          selector: 'CallExpression[callee.property.name="startsWith"] > Literal[value=/^(relay|fuse|splice|sensor)-/]',
          message: 'nothing hangs on how an id is written: give the thing a field that says it',
        },
      ],
    },
  },
  wall(
    ['core/**'],
    [
      {
        regex: '(^~/(app|catalog|demo|scripts)|^react|^styled|^node:)',
        message: 'core is pure TypeScript: no app, catalog, React, DOM or Node',
      },
    ],
  ),
  wall(['app/ui/**'], [{ regex: '(^~/core|/core/)', message: 'app/ui knows nothing of core' }]),
  prettier,
);
