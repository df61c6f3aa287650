import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';

/** Installs the packages of package-lock.json when they are not there, or older than it. Plain Node: nothing else is there yet. */
export function installPackages() {
  const mark = 'node_modules/.package-lock.json';
  if (existsSync(mark) && statSync(mark).mtimeMs >= statSync('package-lock.json').mtimeMs) return;
  say('Installing packages (about four minutes the first time: SQLite is compiled)');
  run('npm', ['ci', '--no-audit', '--no-fund']);
}

/** Builds the workbench. */
export function build() {
  say('Building');
  run('node', ['scripts/bundle.mjs']);
  run('npx', ['next', 'build']);
}

/** Chromium from Debian's packages, when it is missing. */
export function installChromium() {
  if (existsSync('/usr/bin/chromium')) return;
  say('Installing Chromium');
  run('apt-get', ['update', '-qq']);
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], {
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
