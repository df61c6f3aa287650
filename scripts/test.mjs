import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
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

/** Runs a check that passes or fails as one. */
function check(name, command, args) {
  say(name);
  const { status } = spawnSync(command, args, {
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
  if (status === 0) return void passed++;
  failed++;
  failures.push(name);
}

check('Types', 'npx', ['tsc', '--noEmit']);
check('Lint', 'npx', ['eslint', '.', '--max-warnings', '0']);
check('Imports point one way', 'npx', ['depcruise', '--config', '.dependency-cruiser.cjs', 'src']);
check('Licences', 'node', ['scripts/licences.mjs']);
check('Plain English', 'node', ['scripts/words.mjs']);
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
check('Language cases by the command line', 'npx', [
  'tsx',
  'src/cli/main.ts',
  'cases',
  ...cases.map((name) => `cases/${name}.json`),
]);

check('The base theme, by the command line', 'npx', ['tsx', 'src/cli/main.ts', 'check', 'themes/quay-1.0']);

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
