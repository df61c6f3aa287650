import fc from 'fast-check';
import { readdirSync, readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { parseTemplate, type ElementNode, type Template } from '@/core/language';
import { amendmentOf, elementAt, literalAttribute, pathTo } from './amendment';
import { changed, elementsOf, type Changed, type Draw } from './testing/changed-tree';
import type { Layer } from './theme';
import { planUpdate, type OwnFile } from './update';

const theme = 'themes/quay-1.1';
const changes = 200;
const amended = 60;

const drawing = (seed: number): Draw => {
  const numbers = fc.sample(fc.nat(), { seed, numRuns: 3000 });
  let next = 0;
  return (below) => (numbers[next++ % numbers.length] as number) % below;
};

const layer = (version: string, files: ReadonlyMap<string, string>): Layer => ({
  ...{ kind: 'base', name: 'Base', version },
  files: new Map([...files].map(([path, text]) => [path, { hash: text, text }])),
});

/** Operations of an amendment, by the number that each puts on the page. */
const operations = (text: string): Map<number, ElementNode> =>
  new Map(
    (amendmentOf(parseTemplate('x.html', text))?.children ?? []).flatMap((node) =>
      node.type === 'element'
        ? [[Number(/<i>(\d+)<\/i>/.exec(node.source.slice(node.from, node.to))?.[1]), node] as const]
        : [],
    ),
  );

describe(`${amended} place amendments over ${changes} generated changes of a base`, () => {
  const total = { right: 0, listed: 0, gone: 0, copied: 0, goneListed: 0 };
  const wrong: string[] = [];

  beforeAll(() => {
    const base = new Map(
      readdirSync(theme, { recursive: true, encoding: 'utf8' })
        .filter((path) => path.endsWith('.html'))
        .sort()
        .map((path) => [path, readFileSync(`${theme}/${path}`, 'utf8')]),
    );
    const templates = new Map([...base].map(([path, text]) => [path, parseTemplate(path, text)]));
    const all = [...templates].flatMap(([path, { children }]) =>
      elementsOf(children).map((element) => ({ path, element, at: pathTo(children, element) ?? '' })),
    );
    const pick = drawing(19);
    const targets = Array.from({ length: amended }, (_, number) => {
      const [one] = all.splice(pick(all.length), 1);
      if (!one) throw new Error('The base has too few elements');
      return { number, ...one };
    });
    const own = new Map<string, OwnFile>();
    for (const path of new Set(targets.map((one) => one.path))) {
      const lines = targets.flatMap((one) =>
        one.path === path ? [`  <after at="${one.at}"><i>${one.number}</i></after>`] : [],
      );
      const text = `<amend>\n${lines.join('\n')}\n</amend>\n`;
      const below = base.get(path) ?? '';
      own.set(path, { hash: text, text, origin: { hash: below, text: below } });
    }
    for (let seed = 0; seed < changes; seed++) {
      const draw = drawing(seed);
      const later = new Map<string, Changed>();
      for (const path of own.keys()) {
        const one = changed(templates.get(path) as Template, 1 + draw(4), draw);
        if (one) later.set(path, one);
      }
      const after = new Map([...base].map(([path, text]) => [path, later.get(path)?.text ?? text]));
      const { touched } = planUpdate([layer('1', base)], [layer('2', after)], own);
      for (const { path, element, number, at } of targets) {
        const change = later.get(path);
        if (!change) continue;
        const operation = operations(touched.find((one) => one.path === path)?.text ?? own.get(path)?.text ?? '').get(
          number,
        );
        const now = operation && literalAttribute(operation, 'at');
        const ends = now ? elementAt(change.nodes, now).element : null;
        const isListed = operation !== undefined && literalAttribute(operation, 'was') !== null;
        const target = change.became(element);
        const copies = change.copies(element);
        if (target && isListed) total[copies.length ? 'copied' : 'listed']++;
        else if (target && ends === target) total.right++;
        else if (!target && isListed) total.goneListed++;
        // Removed while a copy of it was put elsewhere: that is a move.
        else if (!target && ends && copies.includes(ends)) total.gone++;
        else
          wrong.push(`${seed}: ${path} ${at} → ${now}, not ${target && pathTo(change.nodes, target)}\n${change.text}`);
      }
    }
  }, 300_000);

  it('leads none elsewhere without saying so', () => expect(wrong).toEqual([]));
  it('lists at most a tenth of those whose element is certain', () => {
    const { right, listed } = total;
    expect(right + listed).toBeGreaterThan(changes * amended * 0.7);
    expect(listed / (right + listed)).toBeLessThanOrEqual(0.1);
  });
  it('lists what was removed', () => expect(total.goneListed).toBeGreaterThan(200));
});
