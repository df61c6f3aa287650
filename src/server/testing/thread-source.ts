import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';

/** For tests only: a thread's code as it is written. A thread of the test runner reads TypeScript once it has asked for that. */
export function threadSource(_: string, source: string): { filename: string; execArgv: string[] } {
  const file = join(mkdtempSync(join(tmpdir(), 'last-thread-')), 'thread.mjs');
  const tsx = import.meta.resolve('tsx/esm/api');
  writeFileSync(file, `import { register } from '${tsx}';\nregister();\nawait import('${resolve(source)}');\n`);
  return { filename: file, execArgv: [] };
}
