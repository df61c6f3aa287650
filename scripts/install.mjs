import { createServer } from 'node:net';
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { giveBuild, isBuilt, markBuilt, sourcesOf, takeBuild } from './build-state.mjs';

/** Installs the packages of package-lock.json when they are not there, or older than it. Plain Node: nothing else is there yet. */
export function installPackages() {
  const mark = 'node_modules/.package-lock.json';
  if (existsSync(mark) && statSync(mark).mtimeMs >= statSync('package-lock.json').mtimeMs) return;
  say('Installing packages (about four minutes the first time: SQLite is compiled)');
  run('npm', ['ci', '--no-audit', '--no-fund']);
}

/** Builds the workbench, where what is built is not of the sources as they are; while another build runs here it waits for that. */
export function build() {
  const root = process.cwd();
  let said = false;
  for (let other = takeBuild(root); other !== null; other = takeBuild(root)) {
    if (!said) say(`Another build runs here (process ${other}): waiting for it`);
    said = true;
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 500);
  }
  process.once('exit', () => giveBuild(root));
  if (isBuilt(root)) say('Built already');
  else {
    say('Building');
    const sources = sourcesOf(root);
    run('node', ['scripts/bundle.mjs']);
    run('npx', ['next', 'build']);
    markBuilt(root, sources);
  }
  giveBuild(root);
}

/** What tests are run with of Debian's packages, each with a file by which it is known to be there. */
const debian = { chromium: '/usr/bin/chromium', 'nginx-light': '/usr/sbin/nginx', varnish: '/usr/sbin/varnishd' };

/** Installs what is missing: a browser, and the servers that stand in front of render nodes. */
export function installDebian() {
  const missing = Object.keys(debian).filter((name) => !existsSync(debian[name]));
  if (!missing.length) return;
  say(`Installing ${missing.join(', ')}`);
  run('apt-get', ['update', '-qq']);
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], {
    DEBIAN_FRONTEND: 'noninteractive',
  });
}

export function say(text) {
  process.stdout.write(`\n— ${text}\n`);
}

/** Runs a command with its output shown; ends the script with its status when it fails. */
export function run(command, args, env = {}) {
  const { status, error } = spawnSync(command, args, {
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env },
  });
  if (error) {
    process.stderr.write(`${command} cannot be run: ${error.message}\n`);
    process.exit(1);
  }
  if (status !== 0) process.exit(status ?? 1);
}

export function checkNode() {
  const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
  if (major > 20 || (major === 20 && minor >= 19)) return;
  process.stderr.write(`Last needs Node 20.19 or newer; this is ${process.versions.node}.\n`);
  process.exit(1);
}

/** Ends with a sentence where the port that the workbench is to have (`PORT`) is in use. */
export async function checkPort() {
  const port = Number(process.env.PORT ?? 4170);
  if (!Number.isInteger(port)) return;
  const server = createServer();
  const isFree = await new Promise((resolve) => {
    server.once('error', () => resolve(false));
    server.listen(port, process.env.LAST_BIND ?? '127.0.0.1', () => server.close(() => resolve(true)));
  });
  if (isFree) return;
  process.stderr.write(
    `Port ${port} is in use: stop what uses it, or start with another, as in PORT=${port + 1} npm run demo.\n`,
  );
  process.exit(1);
}
