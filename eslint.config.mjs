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
    // The fixture's use() is no React hook.
    files: ['e2e/**'],
    rules: { 'react-hooks/rules-of-hooks': 'off' },
  },
];

export default config;
