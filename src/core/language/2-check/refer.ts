import type { Expression } from '../1-parse/expression';
import type { Template } from '../1-parse/nodes';
import { nearestOf } from '../nearest';
import type { Fix } from '../problems';
import { Day } from '../values/values';
import type { ThemeFacts } from './facts';
import { fixOf, type Report } from './infer';
import { gapsOf } from './walk';

type Call = Expression & { kind: 'call' };

/** Holds a function's written-out name against the theme or the shop: phrases, assets, icons, content pages, menus, pieces, gaps. */
export function checkReference(call: Call, template: Template, theme: ThemeFacts, report: Report): void {
  if (call.name === 'listing_url') return checkListing(call, theme, report);
  const first = call.args[0]?.value;
  if (first?.kind !== 'text') return;
  const name = first.value;
  const inner = { from: first.from + 1, to: first.to - 1 };
  const among = (code: 'asset' | 'icon' | 'content-page' | 'menu', known: Iterable<string>) => {
    const all = new Set(known);
    if (all.has(name)) return;
    const near = nearestOf(name, all);
    report(code, first, { name, near: near?.name ?? '' }, fixOf(near, inner));
  };
  switch (call.name) {
    case 't':
      checkPhrase(call, name, first, theme, report);
      break;
    case 'asset':
      among('asset', theme.assetPaths());
      break;
    case 'icon':
      among('icon', iconNames(theme));
      break;
    case 'content':
      if (theme.site) among('content-page', theme.site.contents);
      break;
    case 'menu':
      if (theme.site) among('menu', [...theme.site.menus, ...theme.menus]);
      break;
    case 'day':
      if (!Day.read(name))
        report('kind', first, { text: `“${name}” is not a day, and gives none: write it as 2026-03-01` });
      break;
    case 'filled': {
      const gaps = gapsOf(template);
      if (gaps.has(name)) break;
      const near = nearestOf(name, gaps);
      report(
        'gap',
        first,
        { text: `This template has no gap “${name}”${near ? `; did you mean “${near.name}”?` : ''}` },
        fixOf(near, inner),
      );
      break;
    }
    case 'fragment':
      checkFragment(name, first, theme, report);
  }
}

/** The names that a listing's address is asked for by, where they are written out. */
function checkListing(call: Call, theme: ThemeFacts, report: Report): void {
  for (const { name, value } of call.args) {
    const object = name === 'tag' ? 'Tag' : name === 'brand' ? 'Brand' : name === 'category' ? 'Category' : null;
    const there = object && theme.site?.named(object);
    if (!there || value.kind !== 'text' || there.has(value.value)) continue;
    const near = nearestOf(value.value, there);
    const span = { from: value.from + 1, to: value.to - 1 };
    report('named', value, { kind: name ?? '', name: value.value, near: near?.name ?? '' }, fixOf(near, span));
  }
}

function* iconNames(theme: ThemeFacts): Iterable<string> {
  for (const path of theme.assetPaths()) {
    const name = /^icons\/([a-z0-9-]+)\.svg$/.exec(path)?.[1];
    if (name) yield name;
  }
}

function checkPhrase(call: Call, key: string, at: Expression, theme: ThemeFacts, report: Report): void {
  const phrase = theme.phrase(key);
  if (phrase === null) {
    const near = nearestOf(key, theme.phraseKeys());
    report(
      'phrase',
      at,
      { name: key, locale: theme.locale, near: near?.name ?? '' },
      fixOf(near, { from: at.from + 1, to: at.to - 1 }) ?? addPhrase(key),
    );
    return;
  }
  const texts = typeof phrase === 'string' ? [phrase] : Object.values(phrase);
  const given = new Set(call.args.map((one) => one.name));
  const wanted = new Set(
    texts.flatMap((text) => [...text.matchAll(/\{([A-Za-z_]\w*)\}/g)].map(([, name]) => name as string)),
  );
  if (typeof phrase !== 'string') wanted.add('count');
  for (const name of wanted) if (!given.has(name)) report('phrase-value', call, { key, name });
}

/** The phrase itself is what lacks: it gets a text to begin with from the end of its key. */
function addPhrase(key: string): Fix | undefined {
  if (!/^[a-z][\w-]*(?:\.[\w-]+)*$/i.test(key)) return undefined;
  const words = key.slice(key.lastIndexOf('.') + 1).replace(/[_-]+/g, ' ');
  const text = words.charAt(0).toUpperCase() + words.slice(1);
  return { title: `Add “${key}” in every language`, edits: [], phrases: [{ key, text }] };
}

function checkFragment(name: string, at: Expression, theme: ThemeFacts, report: Report): void {
  const template = theme.template(name);
  if (template?.takes.some((take) => take.served)) return;
  const near = template ? null : nearestOf(name, theme.templateNames());
  const text = template
    ? `“${name}” is not served: none of its inputs is declared with “served”`
    : `There is no template “${name}” in this theme${near ? `; did you mean “${near.name}”?` : ''}`;
  report('fragment', at, { text }, fixOf(near, { from: at.from + 1, to: at.to - 1 }));
}
