import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openDatabase } from './open';
import { Statements } from './statements';
import { StoredThemes } from './themes';

const rounds = 200;
let folder: string;
let program: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'killed-'));
  // One file: starting it takes a tenth of what running the sources takes.
  program = join(process.cwd(), 'node_modules', '.cache', `killed-${process.pid}.mjs`);
  await build({
    entryPoints: ['src/store/testing/killed.ts'],
    outfile: program,
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    logLevel: 'error',
  });
  const themes = new StoredThemes(new Statements(openDatabase(folder)));
  const base = themes.addLayer('base', 'Base', '0', [['layouts/l0.html', Buffer.from('<i>0</i>')]]);
  themes.addDraft('d', 'D', [base, themes.addLayer('shop', 'Shop', '', [])], '2026-01-01T00:00:00Z', '');
  themes.sql.db.close();
});
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
  rmSync(program, { force: true });
});

/** Runs the process and kills it at some moment of its work: within so many milliseconds. */
function killed(round: number, withinMs: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn('node', [program, folder, String(round + 1)], { stdio: ['ignore', 'pipe', 'pipe'] });
    let errors = '';
    child.stderr.on('data', (text: Buffer) => (errors += text.toString()));
    // Moments spread over the first works, by the golden ratio.
    child.stdout.once('data', () => setTimeout(() => child.kill('SIGKILL'), ((round * 0.618034) % 1) * withinMs));
    child.once('exit', (code) => (code === null ? resolve() : reject(new Error(`It ended by itself: ${errors}`))));
  });
}

/** What our own rules find wrong with the store: nothing, when every work was done whole or not at all. */
function wrongs(themes: StoredThemes): string[] {
  const { sql } = themes;
  const wrong: string[] = [];
  if (sql.db.pragma('integrity_check', { simple: true }) !== 'ok') wrong.push('integrity_check');
  if ((sql.db.pragma('foreign_key_check') as unknown[]).length) wrong.push('foreign_key_check');
  const numberOf = (bytes: Buffer) => /<i>(\d+)<\/i>$/.exec(bytes.toString())?.[1] ?? 'broken';
  const same = (state: string, what: string, found: string[]) => {
    if (new Set(found).size > 1) wrong.push(`${state}: ${what} are of ${new Set(found).size} works`);
  };
  const live = themes.live();
  const states = [...themes.drafts(), ...themes.releases()];
  if (themes.releases().length && !states.some(({ id }) => id === live?.id)) wrong.push('live is not a release');
  if (themes.wentLive().length !== themes.releases().length) wrong.push('what went live is not what was released');
  for (const state of states.slice(0, 12)) {
    const layers = themes.layers(state.id);
    if (layers.at(-1)?.kind !== 'shop' || layers.length !== 2) wrong.push(`${state.name}: its layers`);
    const files = new Map(
      layers.flatMap(({ id }) => themes.files(id)).map(({ path, bytes }) => [path, numberOf(bytes)]),
    );
    const of = (pattern: RegExp) => [...files].filter(([path]) => pattern.test(path)).map(([, number]) => number);
    same(state.name, 'pieces', of(/^pieces\//));
    same(state.name, 'files of the base', of(/^layouts\/l/));
    const imported = of(/^product\//);
    same(state.name, 'files of an import', imported);
    if (imported.length !== 0 && imported.length !== 20)
      wrong.push(`${state.name}: ${imported.length} files of an import`);
    if (state.kind === 'draft' && state.revision !== 1 + themes.changeCount(state.id))
      wrong.push(`${state.name}: revision ${state.revision} after ${themes.changeCount(state.id)} changes`);
  }
  const lone = sql.get<{ n: number }>(
    'SELECT count(*) AS n FROM change WHERE below IS NULL AND id NOT IN (SELECT change_id FROM save)',
  );
  if (lone?.n) wrong.push(`${lone.n} changes of nothing`);
  return wrong;
}

it(`a process that is killed ${rounds} times leaves the state before or the state after`, async () => {
  let done = 0;
  let withinMs = 25;
  for (let round = 0; round < rounds; round++) {
    await killed(round, withinMs);
    const themes = new StoredThemes(new Statements(openDatabase(folder)));
    expect([round, wrongs(themes)]).toEqual([round, []]);
    done = themes.sql.get<{ n: number }>('SELECT count(*) AS n FROM change')?.n ?? 0;
    themes.sql.db.close();
    // A slow machine is given longer, so that works are done and cut off there too.
    if (done <= round + 1) withinMs *= 1.1;
  }
  // The works were really at it when they were cut off.
  expect(done).toBeGreaterThan(rounds);
}, 900_000);
