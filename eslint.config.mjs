// Lint: strict rules everywhere, and the one-way imports of the house. The rules that need types are in .oxlintrc.json.
import eslint from '@eslint/js';
import angular from 'angular-eslint';
import prettier from 'eslint-config-prettier';
import tseslint from 'typescript-eslint';

/** What a package, or a part of the core, must not import. */
const forbid = (files, ...groups) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: groups.map(([group, message]) => ({ group, message })) }] },
});

const noIo = [['node:*', 'express', 'pg', '@angular/*', 'rxjs'], 'The core has no interface and no I/O.'];
const upward = (...names) => [
  names.map((n) => `@foxtrail/${n}`),
  'Arrows point one way: web, server, cli → contract → pattern-book → core.',
];
/** The folders of the core from the bottom up: each knows those of the rows before its own, and no other. */
const CORE_LAYERS = [
  ['ground'],
  ['figure', 'words'],
  ['ropes'],
  ['topology', 'rules'],
  ['footage'],
  ['dressing', 'placing'],
  ['tying'],
  ['drawing'],
  ['findings'],
  ['identity'],
  ['drill', 'assembly'],
  ['form'],
  ['reel'],
  ['knot'],
  ['formats'],
  ['kin'],
  ['choose'],
  ['course'],
];
const coreLayers = CORE_LAYERS.flatMap((row, i) =>
  row.map((folder) =>
    forbid([`packages/core/src/${folder}/**`], noIo, upward('*'), [
      CORE_LAYERS.slice(i)
        .flat()
        .filter((other) => other !== folder)
        .map((other) => `**/${other}/*`)
        .concat('**/core/src/index.js'),
      'Inside the core, lower folders do not know higher ones, nor their neighbours: see CORE_LAYERS.',
    ]),
  ),
);

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      '.angular/**',
      '**/.angular/**',
      '.data/**',
      'test-results/**',
      '**/*.cjs',
    ],
  },
  eslint.configs.recommended,
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        fetch: 'readonly',
        Buffer: 'readonly',
        AbortSignal: 'readonly',
        performance: 'readonly',
        document: 'readonly',
        window: 'readonly',
      },
    },
  },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.strict, ...tseslint.configs.stylistic],
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  {
    files: ['packages/web/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'ft', style: 'kebab-case' }],
      '@typescript-eslint/no-extraneous-class': ['error', { allowWithDecorator: true }],
    },
  },
  {
    files: ['packages/web/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: { '@angular-eslint/template/prefer-control-flow': 'error' },
  },
  ...coreLayers,
  forbid(['packages/pattern-book/src/**'], noIo, upward('contract', 'lesson', 'server', 'web', 'cli')),
  forbid(['packages/contract/src/**'], noIo, upward('lesson', 'server', 'web', 'cli')),
  {
    files: ['packages/contract/src/**', 'packages/web/src/*.ts', 'packages/web/src/data/{api,session,theme}.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          paths: [
            {
              name: '@foxtrail/core',
              message: 'The first page waits for it: take values from @foxtrail/core/documents, or types alone.',
              allowTypeImports: true,
            },
          ],
        },
      ],
    },
  },
  forbid(['packages/lesson/src/**'], noIo, upward('server', 'web', 'cli')),
  forbid(['packages/server/src/**'], upward('web', 'cli')),
  forbid(['packages/cli/src/**'], upward('lesson', 'server', 'web')),
  forbid(['packages/web/src/**'], [['node:*', 'express', 'pg'], 'The web runs in a browser.'], upward('server', 'cli')),
  {
    files: ['**/*.spec.ts', 'e2e/**/*.ts'],
    rules: {
      '@typescript-eslint/no-empty-function': 'off',
      'no-restricted-syntax': [
        'error',
        {
          selector: 'Program > ExpressionStatement > CallExpression[callee.name=/^(before|after)(Each|All)$/]',
          message: 'Outside a group it is done for every spec of every file: put it in a describe.',
        },
      ],
    },
  },
  prettier,
);
