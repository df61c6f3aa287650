import { z } from 'zod';
import type { Player } from '@/core/language';

/** All that an `about.json` may hold. */
export const aboutFile = z.strictObject({
  name: z.string().trim().min(1).max(80).optional(),
  version: z.string().trim().min(1).max(30).optional(),
  kind: z.enum(['base', 'add-on', 'shop']).optional(),
  language: z.string().optional(),
  hosts: z.array(z.string()).optional(),
  schemes: z.array(z.string()).optional(),
  players: z
    .array(
      z.strictObject({
        share: z.string().regex(/\{id\}/, 'says by {id} where the film’s name stands'),
        player: z.string(),
      }),
    )
    .optional(),
  menus: z.array(z.string()).optional(),
});

/** What `about.json` says of a layer. */
export interface About {
  name: string;
  version: string;
  /** The language that its phrases are written in first: they are shown where a shop's own languages have none. '' when not said. */
  language: string;
  /** Hosts that scripts and frames may come from. */
  hosts: string[];
  /** Schemes that links may have besides those that every theme may use. */
  schemes: string[];
  /** How films' shared links become their players' addresses. */
  players: Player[];
  /** Menus that its templates show, by slug. A shop need not have them. */
  menus: string[];
}

/** Reads it; one that cannot be read says nothing. */
export function readAbout(text: string | null): About {
  const about: About = { name: '', version: '', language: '', hosts: [], schemes: [], players: [], menus: [] };
  try {
    const read = JSON.parse(text ?? '{}') as Record<string, unknown>;
    if (typeof read.name === 'string') about.name = read.name;
    if (typeof read.version === 'string') about.version = read.version;
    if (typeof read.language === 'string') about.language = read.language;
    const texts = (list: unknown) =>
      Array.isArray(list) ? list.filter((one): one is string => typeof one === 'string') : [];
    about.hosts = texts(read.hosts);
    about.schemes = texts(read.schemes);
    about.menus = texts(read.menus);
    for (const one of Array.isArray(read.players) ? (read.players as unknown[]) : []) {
      const { share, player } = (one ?? {}) as Record<string, unknown>;
      if (typeof share === 'string' && typeof player === 'string' && share.includes('{id}'))
        about.players.push({ share, player });
    }
  } catch {
    // Checking the theme says so.
  }
  return about;
}

/** What the files of a stack of layers say together, lowest first: the base gives the name, and what any layer allows is allowed. */
export const aboutOf = (texts: readonly (string | null)[]): About =>
  texts.map(readAbout).reduceRight(
    (above, { name, version, language, hosts, schemes, players, menus }) => ({
      name,
      version,
      language,
      menus: [...new Set([...menus, ...above.menus])],
      hosts: [...new Set([...hosts, ...above.hosts])],
      schemes: [...new Set([...schemes, ...above.schemes])],
      players: [...above.players, ...players],
    }),
    { name: '', version: '', language: '', hosts: [], schemes: [], players: [], menus: [] },
  );
