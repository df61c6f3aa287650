import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { giveBuild, isBuilt, markBuilt, sourcesOf, takeBuild } from './build-state.mjs';

let root: string;
const write = (path: string, text = '') => {
  mkdirSync(join(root, path, '..'), { recursive: true });
  writeFileSync(join(root, path), text);
};
beforeEach(() => {
  root = mkdtempSync(join(tmpdir(), 'last-build-'));
  for (const path of ['src/a.ts', 'src/b/c.ts', 'package-lock.json', '.next/BUILD_ID', '.bundle/server.mjs'])
    write(path);
  write('public/bench-frame.js');
});

describe('whether the workbench is built', () => {
  it('is known by what it was built from', () => {
    expect(isBuilt(root)).toBe(false);
    markBuilt(root, sourcesOf(root));
    expect(isBuilt(root)).toBe(true);
  });
  const changes: [what: string, change: () => void][] = [
    ['a file with other text', () => write('src/a.ts', 'x')],
    ['a file of another time', () => utimesSync(join(root, 'src/b/c.ts'), 1, 1)],
    ['a new file', () => write('src/d.ts')],
    ['a file less', () => rmSync(join(root, 'src/a.ts'))],
    ['other packages', () => write('package-lock.json', '{}')],
    ['an outcome that is gone', () => rmSync(join(root, '.bundle/server.mjs'))],
  ];
  it.each(changes)('not any more after %s', (_, change) => {
    markBuilt(root, sourcesOf(root));
    change();
    expect(isBuilt(root)).toBe(false);
  });
});

describe('two builds', () => {
  it('wait for one another; one that was killed holds up nobody', async () => {
    expect(takeBuild(root)).toBeNull();
    expect(takeBuild(root)).toBe(process.pid);
    giveBuild(root);
    const other = spawn('sleep', ['60']);
    mkdirSync(join(root, '.building'));
    writeFileSync(join(root, '.building', 'process'), String(other.pid));
    expect(takeBuild(root)).toBe(other.pid);
    const ended = new Promise((resolve) => other.once('exit', resolve));
    other.kill('SIGKILL');
    await ended;
    expect(takeBuild(root)).toBeNull();
  });
});
