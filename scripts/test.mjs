import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { build, checkNode, installDebian, installPackages, say } from './install.mjs';

/** `npm test`: everything that must hold, on a machine with only Node and build tools. Ends with “N passed, N failed”. */
const results = '.results';
checkNode();
installPackages();
installDebian();
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

let passed = 0;
let failed = 0;
/** What failed, by name: said again at the end, where a long log is looked at first. */
const failures = [];

const cases = [
  'printing',
  'places',
  'directives',
  'expressions',
  'words',
  'composition',
  'lines',
  'nesting',
  'filters',
  'layers',
  'decisions',
  'reported',
  'budgets',
];

/** Checks that pass or fail as one: the longest first. */
const checks = [
  ['Lint', 'npx', 'eslint', '.', '--max-warnings', '0'],
  ['Types', 'npx', 'tsc', '--noEmit'],
  ['Imports point one way', 'npx', 'depcruise', '--config', '.dependency-cruiser.cjs', 'src'],
  ['Licences', 'node', 'scripts/licences.mjs'],
  ['Plain English', 'node', 'scripts/words.mjs'],
  [
    'Language cases by the command line',
    ...['npx', 'tsx', 'src/cli/main.ts', 'cases'],
    ...cases.map((name) => `cases/${name}.json`),
  ],
  ['The base theme, by the command line', 'npx', 'tsx', 'src/cli/main.ts', 'check', 'themes/quay-1.0'],
];

/** Runs a check, and shows what it wrote when it has ended: another runs beside it. */
async function check([name, command, ...args]) {
  const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
  const parts = [];
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => parts.push(part));
  const [status] = await once(child, 'close');
  say(name);
  process.stdout.write(Buffer.concat(parts));
  if (status === 0) return void passed++;
  failed++;
  failures.push(name);
}

/** Takes checks until none is left. */
async function checkOn() {
  for (let next = checks.shift(); next; next = checks.shift()) await check(next);
}

say('Types, style, imports, licences, words and cases, two at a time');
await Promise.all([checkOn(), checkOn()]);

say('Unit tests');
const unit = `${results}/unit.json`;
spawnSync('npx', ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${unit}`], {
  stdio: 'inherit',
});
try {
  const read = JSON.parse(readFileSync(unit, 'utf8'));
  passed += read.numPassedTests;
  failed += read.numFailedTests + (read.numFailedTestSuites && !read.numFailedTests ? read.numFailedTestSuites : 0);
  for (const { name, status, assertionResults } of read.testResults) {
    const inside = assertionResults.filter((one) => one.status === 'failed').map((one) => `${name}: ${one.fullName}`);
    if (status === 'failed') failures.push(...(inside.length ? inside : [name]));
  }
} catch {
  failed++;
  failures.push('Unit tests: no report');
}

build();
say('The interface, in headless Chromium');
const browser = `${results}/browser.json`;
spawnSync('npx', ['playwright', 'test'], { stdio: 'inherit', env: { ...process.env, LAST_REPORT: browser } });
try {
  const { stats, errors, suites } = JSON.parse(readFileSync(browser, 'utf8'));
  passed += stats.expected + stats.flaky;
  failed += stats.unexpected + (errors?.length ?? 0);
  if (stats.expected === 0) failed++;
  const visit = ({ specs = [], suites = [] }) => {
    for (const { file, title, ok } of specs) if (!ok) failures.push(`${file}: ${title}`);
    suites.forEach(visit);
  };
  visit({ suites });
} catch {
  failed++;
  failures.push('Browser tests: no report');
}

for (const name of failures) process.stdout.write(`Failed: ${name}\n`);
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed ? 1 : 0);
