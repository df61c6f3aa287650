import { spawn } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { stringify } from 'csv-stringify/sync';
import { parse } from 'csv-parse/sync';
import type { Report } from './live';
import { seeded, serve } from './server';

const products = 100_000;
const rows = 100_000;
const file = join(tmpdir(), 'last-bench-prices.csv');

/** The value of a sorted list that 95 of 100 do not pass. */
const p95 = (times: number[]): number => [...times].sort((a, b) => a - b)[Math.floor(times.length * 0.95)] ?? 0;

/** Figures of goods that come in: 100,000 rows of a table into a shop of 100,000 products, while visitors look at pages. */
export async function importFigures({ asked, say, figure }: Report): Promise<void> {
  if (!asked('import.csv', 'import.dry', 'import.undo', 'import.live', 'import.server', 'import.memory')) return;
  say(
    'An import of 100,000 rows into a shop of 100,000 products, its dry run before and its undo after, with visitors',
  );
  const folder = seeded(products);
  const server = await serve(folder);
  const api = `${server.at}/api/goods`;
  const lines = async (path: string, body?: unknown): Promise<Record<string, unknown>> => {
    const answer = await fetch(`${api}/${path}`, {
      method: 'POST',
      headers: { ...server.headers, 'Content-Type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    const all = (await answer.text()).trim().split('\n');
    const last = JSON.parse(all.at(-1) ?? '{}') as Record<string, unknown>;
    if (!answer.ok || 'failed' in last) throw new Error(`${path}: ${all.at(-1)}`);
    return last;
  };
  try {
    const table = parse(
      await (await fetch(`${api}/export?format=csv`, { headers: server.headers })).text(),
    ) as string[][];
    const price = table[0]?.indexOf('price') ?? -1;
    // A product is not cut in two: its last rows are left out.
    const some = table.slice(0, rows + 1);
    const end = some.findLastIndex(([product]) => product !== some.at(-1)?.[0]);
    const changed = some
      .slice(0, end + 1)
      .map((row, at) =>
        at ? row.map((cell, column) => (column === price && cell ? (Number(cell) + 1).toFixed(2) : cell)) : row,
      );
    const upload = await fetch(`${api}/files?name=prices.csv`, {
      method: 'POST',
      headers: server.headers,
      body: stringify(changed),
    });
    const { upload: id } = (await upload.json()) as { upload: string };
    const memory = () =>
      Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1] ?? 0) / 1000;
    let [visiting, most] = [true, 0];
    const visits = { alone: [] as number[], meanwhile: [] as number[] };
    let now: number[] = visits.alone;
    const visitor = async () => {
      for (let at = 0; visiting; at++) {
        const begin = performance.now();
        const { status } = await server.visit(`/product/${changed[1 + ((at * 37) % (changed.length - 1))]?.[0]}`);
        if (status !== 200) throw new Error(`A visitor was answered ${status}`);
        now.push(performance.now() - begin);
        most = Math.max(most, memory());
        await new Promise((resolve) => setTimeout(resolve, 20));
      }
    };
    const visitors = [visitor(), visitor()];
    await new Promise((resolve) => setTimeout(resolve, 8000));
    const before = memory();
    now = visits.meanwhile;
    const timed = async (path: string, body?: unknown) => {
      const begin = performance.now();
      const last = await lines(path, body);
      return { seconds: (performance.now() - begin) / 1000, last };
    };
    const dry = await timed(`files/${id}/dry-run`, { mode: 'merge' });
    const made = await timed(`files/${id}/import`);
    const { id: change, records } = made.last.made as { id: number; records: number };
    const undo = await timed(`changes/${change}/undo`);
    visiting = false;
    await Promise.all(visitors);
    figure('import.dry', dry.seconds, 's', 'at most 30: the dry run of 100,000 rows');
    figure('import.csv', made.seconds, 's', `at most 60: the import itself, ${records} products with other prices`);
    figure('import.undo', undo.seconds, 's', 'at most 30: its undo');
    figure(
      'import.live',
      p95(visits.meanwhile) / p95(visits.alone),
      '×',
      `at most 2: what 95 of 100 visitors wait meanwhile (${p95(visits.meanwhile).toFixed(1)} ms) against before (${p95(visits.alone).toFixed(1)} ms); the longest ${Math.max(...visits.meanwhile).toFixed(0)} ms of ${visits.meanwhile.length}`,
    );
    figure(
      'import.server',
      most - before,
      'MB',
      `what the server takes more at its highest, above ${before.toFixed(0)}`,
    );
    server.end();
    writeFileSync(file, stringify(changed));
    figure(
      'import.memory',
      await alone(folder, file),
      'MB',
      'at most 600: resident memory of last import at its highest',
    );
  } finally {
    rmSync(file, { force: true });
    server.end();
  }
}

/** Most resident memory of `last import` by itself, in MB, as the system counts it (VmHWM in proc(5)). */
function alone(folder: string, file: string): Promise<number> {
  const child = spawn('node', ['.bundle/last.mjs', 'import', file], {
    env: { ...process.env, LAST_DATA: folder },
    stdio: 'ignore',
  });
  let most = 0;
  const timer = setInterval(() => {
    try {
      most = Math.max(
        most,
        Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0) / 1000,
      );
    } catch {
      // It has ended.
    }
  }, 50);
  return new Promise((resolve, reject) => {
    child.once('exit', (code) => {
      clearInterval(timer);
      if (code === 0) resolve(most);
      else reject(new Error(`last import ended with ${code}`));
    });
  });
}
