import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { merged } from './merge';

/** git's own merge of three files (git merge-file), overlaps to ours; and whether there were any. */
function byGit(base: string, mine: string, theirs: string): { text: string; clean: boolean } {
  const folder = mkdtempSync(join(tmpdir(), 'merge-'));
  const paths = Object.entries({ mine, base, theirs }).map(([name, text]) => {
    writeFileSync(join(folder, name), text);
    return join(folder, name);
  });
  const run = (...more: string[]) => spawnSync('git', ['merge-file', '-p', ...more, ...paths], { encoding: 'utf8' });
  const clean = run().status === 0;
  const text = run('--ours').stdout;
  rmSync(folder, { recursive: true });
  return { text, clean };
}

describe('merging', () => {
  const base = 'a\nb\nc\nd\ne\nf\n';
  const table: [string, string, string, string, number][] = [
    ['both sides', 'A\nb\nc\nd\ne\nf\n', 'a\nb\nc\nd\ne\nF\n', 'A\nb\nc\nd\ne\nF\n', 0],
    ['one side only', base, 'a\nc\nd\ne\nf\n', 'a\nc\nd\ne\nf\n', 0],
    ['the same change twice', 'a\nX\nc\nd\ne\nf\n', 'a\nX\nc\nd\ne\nf\n', 'a\nX\nc\nd\ne\nf\n', 0],
    ['an overlap, mine standing', 'a\nX\nc\nd\ne\nf\n', 'a\nY\nc\nd\ne\nf\n', 'a\nX\nc\nd\ne\nf\n', 1],
  ];
  for (const [name, mine, theirs, text, overlaps] of table)
    it(name, () => {
      expect(merged(base, mine, theirs)).toEqual({ text, overlaps });
      expect(byGit(base, mine, theirs)).toEqual({ text, clean: overlaps === 0 });
    });

  it('takes over what git merges cleanly, line for line, and leaves what it leaves: 300 triples', () => {
    const lines = Array.from({ length: 12 }, (_, at) => `line ${at}`);
    const edit = fc.record({ at: fc.nat(11), text: fc.constantFrom('', 'changed', 'two\nlines') });
    const made = (edits: { at: number; text: string }[]) =>
      `${lines.map((line, at) => edits.find((one) => one.at === at)?.text ?? line).join('\n')}\n`;
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 2 }), fc.array(edit, { maxLength: 2 }), (left, right) => {
        const [mine, theirs, from] = [made(left), made(right), made([])];
        const { text, clean } = byGit(from, mine, theirs);
        const ours = merged(from, mine, theirs);
        if (clean) expect(ours).toEqual({ text, overlaps: 0 });
        // What git leaves to people is never merged silently.
        else expect(ours.overlaps).toBeGreaterThan(0);
      }),
      { numRuns: 300 },
    );
  });
});
