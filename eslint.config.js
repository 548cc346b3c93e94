import js from '@eslint/js';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  { ignores: ['dist', 'node_modules', '.marmot', 'test-results', 'playwright-report'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      '@typescript-eslint/no-non-null-assertion': 'off',
      eqeqeq: 'error',
      'no-console': 'error',
    },
  },
  {
    // A promise that nobody waits for ends the process when it fails.
    files: ['{src,demo,tests,bench}/**/*.{ts,tsx}'],
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': [
        'error',
        { checksVoidReturn: { attributes: false } },
      ],
    },
  },
  {
    // In the server not even one that is declared to be nobody's: each has a handler.
    files: ['src/server/**/*.ts', 'demo/**/*.ts'],
    rules: { '@typescript-eslint/no-floating-promises': ['error', { ignoreVoid: false }] },
  },
  {
    files: ['src/web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      // What is kept of the server stands under its route: only so a change finds what shows it.
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "Property[key.name='queryKey'] > ArrayExpression > Literal:first-child[value!=/^(GET|POST) \\u002Fapi/]",
          message: 'A query is kept under its route; use answerTo.',
        },
        {
          selector: "CallExpression[callee.property.name='setQueryData'] > ArrayExpression",
          message: 'What is kept is named by answerTo(…).queryKey.',
        },
      ],
    },
  },
  {
    files: ['scripts/**/*.mjs', '*.config.js', '*.cjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        module: 'writable',
      },
    },
    rules: { 'no-console': 'off' },
  },
);
