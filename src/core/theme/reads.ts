import { templateOf } from '@/core/alternates';
import type { Theme } from './theme';

/**
 * What of a theme a page was made from: each thing that was read of it, by a name, of which another theme can be asked too. Where all of them come to
 * the same there, the page does as well. Finer than files where that is cheap: phrases by key, placements by shelf.
 */
export type Reads = ReadonlySet<string>;

/** How each thing that is read is named, and what it comes to. `theme` is the theme itself: asking it is not written down. */
const asked = {
  template: (theme: Theme, name: string) => theme.parts(name).map(({ path, hash }) => `${path} ${hash}`),
  file: (theme: Theme, path: string) => theme.file(path)?.hash ?? null,
  phrase: (theme: Theme, locale: string, key: string) => theme.phraseIn(locale, key),
  'first-phrase': (theme: Theme, key: string) => theme.firstPhrase(key),
  shelf: (theme: Theme, name: string) => theme.placedOn(name),
  /** Who gets which template, and whether each that is given is there. */
  assignments: (theme: Theme) => {
    const { alternates } = theme.assignments;
    const there = alternates.alternates.map((one) => theme.file(`${templateOf(one, one.name)}.html`) !== null);
    return [alternates, there];
  },
  look: (theme: Theme) => theme.everywhere('look.json').map(({ hash }) => hash),
  about: (theme: Theme) => theme.everywhere('about.json').map(({ hash }) => hash),
  fonts: (theme: Theme) => theme.fonts?.version ?? null,
  icons: (theme: Theme) => theme.iconsVersion,
  names: (theme: Theme) => theme.names(),
  /** All of it: what nothing finer stands for. */
  whole: (theme: Theme) => theme.layers.map(({ files }) => [...files].map(([path, { hash }]) => `${path} ${hash}`)),
} satisfies Record<string, (theme: Theme, ...names: string[]) => unknown>;

const separator = '\n';
const nameOf = (kind: keyof typeof asked, ...names: string[]): string => [kind, ...names].join(separator);

/** Members of a theme that are read whole, and what stands for each. */
const whole: Partial<Record<keyof Theme, keyof typeof asked>> = {
  ...{ look: 'look', about: 'about', hosts: 'about', schemes: 'about', menus: 'about' },
  ...{ fonts: 'fonts', iconsVersion: 'icons', names: 'names', templateNames: 'names', assignments: 'assignments' },
  types: 'look',
};

/** What a theme was given of its shop: that is no part of it. */
const ofTheShop: ReadonlySet<string> = new Set(['locale', 'surroundings', 'site']);

/** The same theme, which writes down what is read of it. */
export function readingOf(theme: Theme, reads: Set<string>): Theme {
  const note = (kind: keyof typeof asked, ...names: string[]) => void reads.add(nameOf(kind, ...names));
  const finer: Partial<Record<keyof Theme, unknown>> = {
    template: (name: string) => (note('template', name), theme.template(name)),
    compiled: (name: string, traced?: boolean) => (note('template', name), theme.compiled(name, traced)),
    file: (path: string) => (note('file', path), theme.file(path)),
    phraseIn: (locale: string, key: string) => (note('phrase', locale, key), theme.phraseIn(locale, key)),
    firstPhrase: (key: string) => (note('first-phrase', key), theme.firstPhrase(key)),
    placedOn: (shelf: string) => (note('shelf', shelf), theme.placedOn(shelf)),
  };
  return new Proxy(theme, {
    get(_, name: keyof Theme) {
      if (name in finer) return finer[name];
      if (!ofTheShop.has(name)) note(whole[name] ?? 'whole');
      const value: unknown = theme[name];
      return typeof value === 'function' ? (value as (...given: unknown[]) => unknown).bind(theme) : value;
    },
  });
}

const known = new WeakMap<Theme, Map<string, string>>();

/** What a read comes to in a theme, worked out once. */
function comesTo(theme: Theme, read: string): string {
  let of = known.get(theme);
  if (!of) known.set(theme, (of = new Map()));
  let now = of.get(read);
  if (now === undefined) {
    const [kind, ...names] = read.split(separator) as [keyof typeof asked, ...string[]];
    const ask = asked[kind] as (theme: Theme, ...names: string[]) => unknown;
    of.set(read, (now = JSON.stringify(ask(theme, ...names)) ?? ''));
  }
  return now;
}

/** Whether something that was read of one theme is the same in another. */
export const readsSame = (a: Theme, b: Theme, read: string): boolean =>
  a === b || comesTo(a, read) === comesTo(b, read);
