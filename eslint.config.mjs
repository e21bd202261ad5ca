import js from '@eslint/js';
import astro from 'eslint-plugin-astro';
import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['dist', '.astro', '.data', 'node_modules', 'src/data/system/migrations', 'test-results'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...astro.configs.recommended,
  { files: ['src/islands/**/*.tsx'], ...a11y.flatConfigs.recommended },
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/no-confusing-void-expression': 'off',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
      'max-lines': ['error', { max: 580, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': ['error', { max: 120, skipBlankLines: true, skipComments: true }],
      'no-console': 'error',
    },
  },
  {
    files: ['src/islands/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: {
      'max-lines-per-function': ['error', { max: 170, skipBlankLines: true, skipComments: true }],
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
    },
  },
  // A region that scrolls must be reachable by keyboard, and a list of rows is one.
  {
    files: ['src/islands/**/*.tsx'],
    rules: { 'jsx-a11y/no-noninteractive-tabindex': ['error', { roles: ['region'], tags: [] }] },
  },
  {
    files: ['scripts/**/*.mjs', '*.{mjs,cjs}', 'bench/**'],
    languageOptions: {
      globals: {
        module: 'writable',
        process: 'readonly',
        setTimeout: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        AbortSignal: 'readonly',
        clearTimeout: 'readonly',
        URL: 'readonly',
        Buffer: 'readonly',
        fetch: 'readonly',
        performance: 'readonly',
        console: 'readonly',
      },
    },
    rules: { 'no-console': 'off' },
  },
  {
    files: ['tests/**', '**/*.test.ts', 'bench/**'],
    rules: {
      'max-lines': 'off',
      'max-lines-per-function': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
);
