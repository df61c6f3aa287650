import { hashOf } from '@/store';
import { planUpdate, type OwnFile } from '@/core/theme';
import { Theme, type Layer } from '@/core/theme/theme';
import { readFolder } from '@/server/shop/shop';
import type { Report } from './live';

const files = 1000;
const changed = 100;
const own = 60;

const about = { definitions: () => [], site: null };
const layer = (kind: Layer['kind'], version: string, texts: ReadonlyMap<string, string>): Layer => ({
  ...{ kind, version, name: kind },
  files: new Map([...texts].map(([path, text]) => [path, { hash: hashOf(Buffer.from(text)), text }])),
});

/** The base theme's files. */
const baseFiles = (): Map<string, string> =>
  new Map(readFolder('themes/quay-1.1').map(([path, bytes]) => [path, bytes.toString('utf8')] as const));

/** The base theme's files again and again under other names, up to so many. */
function manyFiles(): Map<string, string> {
  const base = [...baseFiles()];
  const pieces = base.filter(([path]) => path.startsWith('pieces/') && path.endsWith('.html'));
  const all = new Map(base);
  for (let at = 0; all.size < files; at++) {
    const [path, text] = pieces[at % pieces.length] as readonly [string, string];
    all.set(path.replace('pieces/', `pieces/many-${Math.floor(at / pieces.length)}/`), `${text}<!-- ${at} -->\n`);
  }
  return all;
}

const timed = (work: () => unknown): number => {
  const begin = performance.now();
  work();
  return performance.now() - begin;
};

/** What checking a theme of a thousand files takes, whole and after a keystroke, and the plan of an update below it. */
export function checkFigures({ asked, say, figure }: Report): void {
  if (!asked('check.whole', 'check.key', 'update.plan')) return;
  say(`Checks of a theme of ${files} files, and an update of ${changed} of them below ${own} of the shop’s own`);
  const texts = manyFiles();
  const base = layer('base', '1', texts);
  const themeOf = (layers: Layer[]) => new Theme(layers, 'en-GB', about);
  // A server checks its drafts when it starts: the code has gone through the base theme once.
  themeOf([layer('base', '0', baseFiles())]).checkAll();
  figure(
    'check.whole',
    timed(() => themeOf([base]).checkAll()),
    'ms',
    'at most 400: all files read and checked for the first time',
  );

  const path = 'pieces/tile.html';
  const keys = Array.from({ length: 20 }, (_, at) => {
    const typed = layer('shop', '1', new Map([[path, `${texts.get(path)}<p>${'x'.repeat(at)}</p>\n`]]));
    return timed(() => themeOf([base, typed]).check('pieces/tile'));
  });
  figure(
    'check.key',
    Math.max(...keys),
    'ms',
    'at most 50: the slowest of 20 keystrokes in a template, until it is checked',
  );

  const many = [...texts].filter(([path]) => path.startsWith('pieces/many-'));
  const after = new Map(texts);
  for (const [path, text] of many.slice(0, changed))
    after.set(path, text.replace(/<(?!takes|!|\/)/, '<p class="new">New</p>\n<'));
  const shop = new Map(
    many.slice(0, own).map(([path, text], at): [string, OwnFile] => {
      const [, name = 'p'] = /^<(?!takes)([a-z]+)/m.exec(text) ?? [];
      const mine = at % 2 ? `${text}<p>Own</p>\n` : `<amend>\n  <after at="${name}"><i>x</i></after>\n</amend>\n`;
      const hash = hashOf(Buffer.from(text));
      return [path, { hash: hashOf(Buffer.from(mine)), text: mine, origin: { hash, text } }];
    }),
  );
  const next = layer('base', '2', after);
  let touched = 0;
  const took = timed(
    () => (touched = planUpdate([base], [next], shop, { locale: 'en-GB', surroundings: about }).touched.length),
  );
  figure('update.plan', took, 'ms', `at most 1,000: what the update does to each of ${touched} files of the shop`);
}
