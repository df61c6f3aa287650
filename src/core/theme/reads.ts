import { templateOf } from '@/core/alternates';
import { Theme } from './theme';

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
const nameOf = (kind: keyof typeof asked, one?: string, two?: string): string =>
  kind + (one === undefined ? '' : separator + one) + (two === undefined ? '' : separator + two);

/** Members of a theme that are read whole, and what stands for each. */
const whole: Partial<Record<keyof Theme, keyof typeof asked>> = {
  ...{ look: 'look', about: 'about', hosts: 'about', schemes: 'about', menus: 'about' },
  ...{ fonts: 'fonts', iconsVersion: 'icons', names: 'names', templateNames: 'names', assignments: 'assignments' },
  types: 'look',
};

/** What a theme was given of its shop: that is no part of it. */
const ofTheShop: ReadonlySet<string> = new Set(['locale', 'surroundings', 'site']);

/** A theme as it is read: what is finer than its files is noted by name. What else a theme has is added below. */
class Reading {
  constructor(
    readonly theme: Theme,
    readonly reads: Set<string>,
  ) {}

  template(name: string) {
    this.reads.add(nameOf('template', name));
    return this.theme.template(name);
  }
  compiled(name: string, traced?: boolean) {
    this.reads.add(nameOf('template', name));
    return this.theme.compiled(name, traced);
  }
  file(path: string) {
    this.reads.add(nameOf('file', path));
    return this.theme.file(path);
  }
  phraseIn(locale: string, key: string) {
    this.reads.add(nameOf('phrase', locale, key));
    return this.theme.phraseIn(locale, key);
  }
  firstPhrase(key: string) {
    this.reads.add(nameOf('first-phrase', key));
    return this.theme.firstPhrase(key);
  }
  placedOn(shelf: string) {
    this.reads.add(nameOf('shelf', shelf));
    return this.theme.placedOn(shelf);
  }
}
const given = ['layers', 'locale', 'surroundings'] satisfies (keyof Theme)[];
for (const name of [...Object.getOwnPropertyNames(Theme.prototype), ...given] as (keyof Theme)[]) {
  if (name in Reading.prototype) continue;
  const read = ofTheShop.has(name) ? null : nameOf(whole[name] ?? 'whole');
  Object.defineProperty(Reading.prototype, name, {
    get(this: Reading) {
      if (read !== null) this.reads.add(read);
      const value: unknown = this.theme[name];
      return typeof value === 'function' ? (value as (...of: unknown[]) => unknown).bind(this.theme) : value;
    },
  });
}

/** The same theme, which writes down what is read of it. */
export const readingOf = (theme: Theme, reads: Set<string>): Theme => new Reading(theme, reads) as unknown as Theme;

const known = new WeakMap<Theme, Map<string, string>>();

/** What a read comes to in a theme, as text, worked out once. */
export function comesTo(theme: Theme, read: string): string {
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
