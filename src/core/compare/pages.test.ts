import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { differingLines } from './pages';

const prefixes = { before: '/live', after: '/draft/d' };

/** Lines that differ as git tells them (git diff -U0): of each hunk the longer side. */
function byGit(before: string, after: string): number {
  const folder = mkdtempSync(join(tmpdir(), 'diff-'));
  writeFileSync(join(folder, 'a'), before);
  writeFileSync(join(folder, 'b'), after);
  const { stdout } = spawnSync('git', ['diff', '--no-index', '--minimal', '-U0', 'a', 'b'], {
    cwd: folder,
    encoding: 'utf8',
  });
  rmSync(folder, { recursive: true });
  return [...stdout.matchAll(/^@@ -\d+(?:,(\d+))? \+\d+(?:,(\d+))? @@/gm)].reduce(
    (sum, [, gone = '1', come = '1']) => sum + Math.max(Number(gone), Number(come)),
    0,
  );
}

describe('how many lines of a page come out different', () => {
  const table: [string, string, string, number][] = [
    ['none', '<a href="/live/x">x</a>\n', '<a href="/draft/d/x">x</a>\n', 0],
    [
      'none, but another version of a style sheet',
      '<link href="/live/a.css?v=0a1">\n',
      '<link href="/draft/d/a.css?v=9f">\n',
      0,
    ],
    ['none, but empty lines and indentation', 'a\n  b\n', 'a\n\n      b\n', 0],
    ['one changed', 'a\nb\nc\n', 'a\nB\nc\n', 1],
    ['two added', 'a\nc\n', 'a\nb\nb\nc\n', 2],
    ['one removed', 'a\nb\nc\n', 'a\nc\n', 1],
    ['one changed, one added', 'a\nb\nc\n', 'A\nb\nc\nd\n', 2],
    ['three in the place of one', 'a\nb\nc\n', 'a\nx\ny\nz\nc\n', 3],
  ];
  for (const [name, before, after, lines] of table)
    it(name, () => expect(differingLines({ before, after }, prefixes)).toBe(lines));

  it('is what git counts: 150 pairs', () => {
    const line = fc.constantFrom('stays', 'other', 'more');
    const edits = fc.array(fc.record({ at: fc.nat(9), text: fc.array(line, { maxLength: 2 }) }), { maxLength: 3 });
    fc.assert(
      fc.property(edits, (changes) => {
        const lines = Array.from({ length: 10 }, (_, at) => `line ${at}`);
        const changed = lines.flatMap((one, at) => changes.find((change) => change.at === at)?.text ?? [one]);
        const [before, after] = [lines, changed].map((all) => `${all.join('\n')}\n`) as [string, string];
        if (changed.length) expect(differingLines({ before, after }, prefixes)).toBe(byGit(before, after));
      }),
      { numRuns: 150 },
    );
  });
});
