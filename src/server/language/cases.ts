import { readFileSync } from 'node:fs';
import { judge, runCase, type Case } from '@/core/theme';

/** Runs case files; says what failed and a line of totals. Returns the exit status. */
export function runCaseFiles(files: string[], say: (line: string) => void): number {
  let passed = 0;
  let failed = 0;
  for (const file of files) {
    let cases: Case[];
    try {
      cases = (JSON.parse(readFileSync(file, 'utf8')) as { cases: Case[] }).cases;
      if (!Array.isArray(cases)) throw new TypeError('it holds no list “cases”');
    } catch (error) {
      say(`${file}: cannot be read: ${error instanceof Error ? error.message : String(error)}`);
      failed++;
      continue;
    }
    for (const one of cases) {
      const wrong = judge(one, runCase(one));
      if (wrong === null) passed++;
      else {
        failed++;
        say(`${file}: ${one.name}\n     ${wrong}`);
      }
    }
  }
  say(`${passed} passed, ${failed} failed`);
  return failed ? 1 : 0;
}
