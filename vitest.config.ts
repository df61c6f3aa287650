import { readdirSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const all = ['src', 'demo', 'scripts'].flatMap((room) =>
  readdirSync(room, { recursive: true, encoding: 'utf8' })
    .filter((path) => path.endsWith('.test.ts'))
    .map((path) => `${room}/${path}`),
);

/** What a test puts in the place of a module, of what the whole process has, or of time: that file runs by itself. */
const changesMore =
  /\bvi\.(?:mock|doMock|stubGlobal|stubEnv|resetModules|spyOn|useFakeTimers)\(|\bglobalThis\b|\bprocess\.(?:env|chdir)\b|\bset(?:Addresses|Guarded|Knowing)\(/;
const isAlone = (path: string): boolean => changesMore.test(readFileSync(path, 'utf8'));

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    environment: 'node',
    // Both cores: by itself it leaves one of two idle.
    maxWorkers: '100%',
    // For what hangs: a slow machine that does its work is given the time.
    hookTimeout: 300_000,
    testTimeout: 300_000,
    setupFiles: ['vitest.setup.ts'],
    // The others of a process share the modules that they load: reading them for each took a quarter of the time.
    projects: [
      { extends: true, test: { name: 'together', include: all.filter((path) => !isAlone(path)), isolate: false } },
      { extends: true, test: { name: 'alone', include: all.filter(isAlone) } },
    ],
  },
});
