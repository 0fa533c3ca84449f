import js from '@eslint/js';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import importX from 'eslint-plugin-import-x';
import jsxA11y from 'eslint-plugin-jsx-a11y';
import reactHooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import tseslint from 'typescript-eslint';

/* Each feature may use those before it, by what their index gives out; `shared` uses none of them, and nothing uses the frame. */
const FEATURES = [
  'paper',
  'batch',
  'proof',
  'ledger',
  'rules',
  'masterdata',
  'document',
  'review',
  'unwind',
  'billing',
  'returns',
  'agreement',
  'order',
  'customers',
  'items',
  'goods',
  'imports',
  'outbox',
  'access',
  'trail',
  'today',
];

const layers = [
  { target: './src/shared', from: ['./src/features', './src/app'] },
  { target: './src/features', from: './src/app' },
  ...FEATURES.slice(0, -1).map((feature, at) => ({
    target: `./src/features/${feature}`,
    from: FEATURES.slice(at + 1).map((later) => `./src/features/${later}`),
    message: `${feature} stands below it: see FEATURES in eslint.config.js`,
  })),
];

/** What the screens are held to; `./euthyna check` fails on any finding, `./euthyna fix` mends what can be mended. */
export default tseslint.config(
  { ignores: ['target', 'node_modules', 'src/shared/api/schema.d.ts'] },
  js.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [
      tseslint.configs.strictTypeChecked,
      tseslint.configs.stylisticTypeChecked,
      reactHooks.configs.flat['recommended-latest'],
      jsxA11y.flatConfigs.strict,
    ],
    plugins: { 'import-x': importX },
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    settings: { 'import-x/resolver-next': [createTypeScriptImportResolver()] },
    rules: {
      // an empty text says that nothing was given, as undefined does; for everything else ?? is meant
      '@typescript-eslint/prefer-nullish-coalescing': ['error', { ignorePrimitives: { string: true, boolean: true } }],
      'import-x/no-cycle': 'error',
      'import-x/no-restricted-paths': ['error', { zones: layers }],
      // an entry page or dialog begins with its first field, so that one types at once: people here work by keyboard
      'jsx-a11y/no-autofocus': 'off',
      // numbers print as they are meant to; everything else must be made a string by whoever knows how
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      // onClick={() => setOpen(true)} says what it does; braces around it say no more
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      // React ignores what a handler returns; each of ours reports its own failure
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      // the house's shapes are types throughout: they compose with unions, interfaces don't
      '@typescript-eslint/consistent-type-definitions': ['error', 'type'],
      'import-x/no-duplicates': 'error',
      'import-x/order': ['error', { alphabetize: { order: 'asc' }, 'newlines-between': 'never' }],
    },
  },
  {
    files: ['src/features/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '^\\.\\./[a-z]+/', message: 'A feature is used by what its index gives out.' }] },
      ],
    },
  },
  { files: ['*.mjs', '*.js'], languageOptions: { globals: globals.node } },
);
