import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['src/**/*.test.ts', 'demo/**/*.test.ts', 'scripts/**/*.test.ts'],
    environment: 'node',
    // Both cores: by itself it leaves one of two idle.
    maxWorkers: '100%',
    // For what hangs: a slow machine that does its work is given the time.
    testTimeout: 120_000,
    setupFiles: ['vitest.setup.ts'],
  },
});
