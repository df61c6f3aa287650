import next from 'eslint-config-next';
import typescript from 'eslint-config-next/typescript';

const config = [
  ...next,
  ...typescript,
  {
    ignores: [
      '.next/**',
      'node_modules/**',
      'themes/**',
      'public/**',
      '.bundle/**',
      'data/**',
      'next-env.d.ts',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
      ],
      '@typescript-eslint/no-explicit-any': 'error',
      'no-console': ['error', { allow: ['error'] }],
      eqeqeq: 'error',
      'prefer-const': 'error',
    },
  },
  {
    // Every SQL text of the project is in src/store: a schema that changes is changed in one place.
    files: ['src/**'],
    ignores: ['src/store/**', '**/*.test.ts', 'src/**/testing/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['Literal[value=', 'TemplateElement[value.raw='].map((node) => ({
          selector: `${node}/^\\s*(SELECT|INSERT INTO|UPDATE \\w+ SET|DELETE FROM|WITH \\w+ AS|PRAGMA|CREATE TABLE|BEGIN)\\b/]`,
          message: 'SQL belongs into src/store.',
        })),
      ],
    },
  },
  {
    // The fixture's use() is not a React hook.
    files: ['e2e/**'],
    rules: { 'react-hooks/rules-of-hooks': 'off' },
  },
];

export default config;
