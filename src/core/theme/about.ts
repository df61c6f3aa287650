import type { Player } from '@/core/language';

/** What `about.json` says of a layer. */
export interface About {
  name: string;
  version: string;
  /** Hosts that scripts and frames may come from. */
  hosts: string[];
  /** Schemes that links may have besides those that every theme may use. */
  schemes: string[];
  /** How films' shared links become their players' addresses. */
  players: Player[];
}

/** Reads it; one that cannot be read says nothing. */
export function readAbout(text: string | null): About {
  const about: About = { name: '', version: '', hosts: [], schemes: [], players: [] };
  try {
    const read = JSON.parse(text ?? '{}') as Record<string, unknown>;
    if (typeof read.name === 'string') about.name = read.name;
    if (typeof read.version === 'string') about.version = read.version;
    const texts = (list: unknown) =>
      Array.isArray(list) ? list.filter((one): one is string => typeof one === 'string') : [];
    about.hosts = texts(read.hosts);
    about.schemes = texts(read.schemes);
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
