import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** What the workbench is built from, besides `src`. */
const others = ['package-lock.json', 'next.config.ts', 'tsconfig.json', 'scripts/bundle.mjs'];
/** What a build leaves, each of which must be there. */
const outcomes = ['.next/BUILD_ID', '.bundle/server.mjs', 'public/bench-frame.js'];
const mark = '.next/built-from';
const lock = '.building';

/** Tells one state of the sources from another: by each file's path, size and time. */
export function sourcesOf(root) {
  const lines = [];
  const add = (path) => {
    const { size, mtimeMs } = statSync(join(root, path));
    lines.push(`${path} ${size} ${mtimeMs}`);
  };
  for (const one of readdirSync(join(root, 'src'), { recursive: true, withFileTypes: true }))
    if (one.isFile()) add(join(one.parentPath, one.name).slice(root.length + 1));
  for (const path of others) if (existsSync(join(root, path))) add(path);
  return createHash('sha256').update(lines.sort().join('\n')).digest('hex');
}

/** Whether what is built is of the sources as they are. */
export const isBuilt = (root) =>
  [...outcomes, mark].every((path) => existsSync(join(root, path))) &&
  readFileSync(join(root, mark), 'utf8') === sourcesOf(root);

export const markBuilt = (root, sources) => writeFileSync(join(root, mark), sources);

const lives = (process_) => {
  try {
    process.kill(process_, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
};

/** Takes the right to build here; gives the process that has it instead, or null. One that ended without giving it back has it no longer. */
export function takeBuild(root) {
  const folder = join(root, lock);
  for (;;) {
    try {
      mkdirSync(folder);
      writeFileSync(join(folder, 'process'), String(process.pid));
      return null;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    }
    let other = NaN;
    try {
      other = Number(readFileSync(join(folder, 'process'), 'utf8'));
    } catch {
      // It is taken at this moment, or given back.
    }
    if (other && lives(other)) return other;
    // Nobody's: left behind by a process that was killed, or not written yet.
    if (other || (existsSync(folder) && Date.now() - statSync(folder).mtimeMs > 2000))
      rmSync(folder, { recursive: true, force: true });
    else if (existsSync(folder)) return 0;
  }
}

export const giveBuild = (root) => rmSync(join(root, lock), { recursive: true, force: true });
