import { readFileSync } from 'node:fs';
import { Bench } from 'tinybench';
import { checkTemplate, compileTemplate, parseTemplate, withoutMarks } from '../src/core/language';
import { readFolder, Shop } from '@/server/shop/shop';
import { survey } from '@/server/bench/survey';
import { Theme } from '@/core/theme/theme';
import { listingBy, productBy, renderListing } from './engines';
import { accountFigures } from './account';
import { alternatesFigures } from './alternates';
import { arrangeFigures } from './arrange';
import { browserFigures } from './browser';
import { budgetFigures } from './budget';
import { checkFigures } from './checks';
import { differFigures } from './differ';
import { feedFigures } from './feed';
import { frontFigures } from './front';
import { gateFigures } from './gate';
import { goodsFigures } from './records';
import { importFigures } from './imports';
import { liveFigures } from './live';
import { nodeFigures } from './node';
import { seeded } from './server';
import { themeFigures } from './theme';

/**
 * `npm run bench`: figures as ratios in one run. With `--json [name…]` only `{"figures": [{"name", "value", "unit", "against"}]}`.
 * Each ratio is the median of ten rounds, in each of which all that is compared runs, one after the other.
 */
interface Figure {
  name: string;
  value: number;
  unit: string;
  against: string;
}

const args = process.argv.slice(2);
const json = args.includes('--json');
const wanted = args.filter((arg) => !arg.startsWith('--'));
const say = (line: string) => {
  if (!json) process.stdout.write(`${line}\n`);
};
const rounds = 10;

/** Medians in milliseconds of what is compared, over all rounds, and each against the first named. */
async function compare(tasks: Record<string, () => unknown>): Promise<(name: string, against: string) => number> {
  const names = Object.keys(tasks);
  const times = new Map(names.map((name) => [name, [] as number[]]));
  for (let round = 0; round < rounds; round++) {
    const bench = new Bench({ time: 120, warmupTime: round ? 20 : 300 });
    for (const name of names) bench.add(name, tasks[name] as () => unknown);
    await bench.run();
    for (const task of bench.tasks) {
      const { result } = task;
      if (!('latency' in result)) throw new Error(`${task.name} failed in the benchmark`);
      times.get(task.name)?.push(result.latency.p50);
    }
  }
  const median = (list: number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1] as number;
  return (name, against) => {
    const [own, other] = [times.get(name) ?? [], times.get(against) ?? []];
    return median(own.map((time, at) => time / (other[at] as number)));
  };
}

/** Every engine gives the same bytes, or nothing is compared. */
function same(by: Record<string, () => string>): void {
  const expected = (by.last as () => string)();
  for (const [name, make] of Object.entries(by))
    if (make() !== expected) throw new Error(`${name} gives other bytes than last: the figures would mean nothing`);
}

const figures: Figure[] = [];
function figure(name: string, value: number, unit: string, against: string): void {
  figures.push({ name, value: Number(value.toFixed(3)), unit, against });
  say(`  ${name.padEnd(28)} ${value.toFixed(2).padStart(7)} ${unit}  ${against}`);
}
const asked = (...names: string[]) => !wanted.length || names.some((name) => wanted.includes(name));

if (asked('listing.plain', 'listing.traced', 'listing.hand', 'listing.ejs')) {
  say('A listing of 48 tiles with tags, prices and a pager');
  same(listingBy);
  if (withoutMarks(renderListing(true).html) !== renderListing().html)
    throw new Error('the traced page is another page');
  const ratio = await compare({ ...listingBy, traced: () => renderListing(true).html });
  figure('listing.plain', ratio('last', 'eta'), '×', 'eta');
  figure('listing.traced', ratio('traced', 'eta'), '×', 'eta');
  figure('listing.hand', ratio('last', 'hand'), '×', 'hand-written concatenation');
  figure('listing.ejs', ratio('last', 'ejs'), '×', 'ejs');
}

if (asked('product.plain', 'product.ejs')) {
  say('A product page through a layout and eight pieces');
  same(productBy);
  const ratio = await compare(productBy);
  figure('product.plain', ratio('last', 'eta'), '×', 'eta with its own includes');
  figure('product.ejs', ratio('last', 'ejs'), '×', 'ejs with its own includes');
}

if (asked('parse.growth')) {
  say('Reading a template of 2,000 lines, and of twice as many');
  const lines = readFileSync('themes/quay-1.0/pieces/tile.html', 'utf8').split('\n').slice(1, -1).join('\n');
  const big = `${lines}\n`.repeat(Math.ceil(2000 / lines.split('\n').length));
  const ratio = await compare({
    twice: () => parseTemplate('a.html', big + big),
    once: () => parseTemplate('a.html', big),
  });
  figure('parse.growth', ratio('twice', 'once'), '×', '2,000 lines; 2 is in step with the length');
  const broken = '<p><b>{x</p>{\'<a b="'.repeat(4000);
  const worse = await compare({
    twice: () => parseTemplate('a.html', broken + broken),
    once: () => parseTemplate('a.html', broken),
  });
  figure('parse.growth.broken', worse('twice', 'once'), '×', 'a text of mistakes only; 2 is in step');
}

if (asked('memory.listing')) {
  say('10,000 renders of the listing');
  const collect = (globalThis as { gc?: () => void }).gc;
  if (!collect) throw new Error('memory is measured under node --expose-gc: use npm run bench');
  for (let at = 0; at < 500; at++) renderListing();
  collect();
  const before = process.memoryUsage().heapUsed;
  for (let at = 0; at < 10_000; at++) renderListing();
  collect();
  figure(
    'memory.listing',
    (process.memoryUsage().heapUsed - before) / 1e6,
    'MB',
    'the heap before, after a collection',
  );
}

if (asked('bench.survey')) {
  say('Awkward pages of the product page over 10,000 products');
  const shop = new Shop(seeded(10_000));
  const draft = shop.themes.draft('spring');
  if (!draft) throw new Error('The demo has no draft');
  const ask = { path: '/product/deck-oil', tried: null, template: 'product/default', unsaved: [] };
  const times: number[] = [];
  let first = 0;
  for (let round = 0; round < 3; round++) {
    const from = performance.now();
    let steps = 0;
    for (const _ of survey(shop, draft, ask, () => performance.now()))
      if (steps++ === 0) first = performance.now() - from;
    times.push(performance.now() - from);
  }
  const [least, middle, most] = times.sort((a, b) => a - b).map((time) => time / 1000) as [number, number, number];
  const rounds = `three rounds: ${least.toFixed(1)} to ${most.toFixed(1)}; something to see after ${(first / 1000).toFixed(1)}`;
  figure('bench.survey', middle, 's', rounds);
}

await liveFigures({ asked, say, figure });
await budgetFigures({ asked, say, figure });
checkFigures({ asked, say, figure });
gateFigures({ asked, say, figure });
accountFigures({ asked, say, figure });
differFigures({ asked, say, figure });
await nodeFigures({ asked, say, figure });
await frontFigures({ asked, say, figure });
await feedFigures({ asked, say, figure });
await arrangeFigures({ asked, say, figure });
await browserFigures({ asked, say, figure });
await themeFigures({ asked, say, figure });
await importFigures({ asked, say, figure });
await goodsFigures({ asked, say, figure });
await alternatesFigures({ asked, say, figure });

if (asked('listing.nunjucks', 'product.nunjucks')) {
  say('The same pages by nunjucks');
  const { nunjucksListing, nunjucksProduct } = await import('./nunjucks');
  const [last, product] = [listingBy.last as () => string, productBy.last as () => string];
  same({ last, nunjucks: nunjucksListing });
  same({ last: product, nunjucks: nunjucksProduct });
  const ratio = await compare({ last, nunjucks: nunjucksListing, product, nunjucksProduct });
  figure('listing.nunjucks', ratio('last', 'nunjucks'), '×', 'nunjucks');
  figure('product.nunjucks', ratio('product', 'nunjucksProduct'), '×', 'nunjucks with its own includes');
}

if (asked('compile.largest', 'compile.parse')) {
  say('Parse, check and compile of the base theme’s largest template');
  const files = readFolder('themes/quay-1.0');
  const theme = new Theme(
    [
      {
        kind: 'base',
        name: 'base',
        version: '1',
        files: new Map(files.map(([path, bytes]) => [path, { hash: path, text: bytes.toString('utf8') }])),
      },
    ],
    'en-GB',
    { definitions: null, site: null },
  );
  const [path, text] = files
    .filter(([name]) => name.endsWith('.html') && !name.startsWith('layouts/'))
    .map(([name, bytes]) => [name, bytes.toString('utf8')] as const)
    .reduce((a, b) => (b[1].length > a[1].length ? b : a));
  say(`  ${path}, ${text.split('\n').length} lines`);
  const { precompileLargest } = await import('./nunjucks');
  const ratio = await compare({
    last: () => {
      const template = parseTemplate(path, text);
      return [checkTemplate(template, theme), compileTemplate(template)];
    },
    parse: () => parseTemplate(path, text),
    nunjucks: precompileLargest,
  });
  figure('compile.largest', ratio('last', 'nunjucks'), '×', 'nunjucks’ precompile');
  figure('compile.parse', ratio('parse', 'nunjucks'), '×', 'nunjucks’ precompile (reading alone)');
}

const unknown = wanted.filter((name) => !figures.some((one) => one.name === name));
if (unknown.length) {
  process.stderr.write(`There is no figure ${unknown.join(', ')}.\n`);
  process.exitCode = 1;
}
if (json)
  process.stdout.write(
    `${JSON.stringify({ figures: wanted.length ? figures.filter(({ name }) => wanted.includes(name)) : figures })}\n`,
  );
