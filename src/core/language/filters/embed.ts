import type { Filter } from './filter';
import type { Player } from './services';

export const embed: Filter = {
  signature: 'embed',
  says: 'a shared film’s link as its player’s address, by the players in about.json; none for any other',
  run: ({ services }, value) => {
    if (typeof value !== 'string') return null;
    return playerOf(services.players ?? [], value);
  },
};

/** The player's address of a film's shared link; null where none is known for it. */
export function playerOf(players: readonly Player[], link: string): string | null {
  for (const { share, player } of players) {
    const id = idOf(share, link.trim());
    if (id !== null) return player.replace('{id}', encodeURIComponent(id));
  }
  return null;
}

/** What stands for `{id}` in a link, by its pattern; null when the link is not of that pattern. A query after it is passed over. */
function idOf(share: string, link: string): string | null {
  const [before = '', after = ''] = share.split('{id}');
  if (!link.startsWith(before)) return null;
  const id = /^[\w-]{1,64}/.exec(link.slice(before.length))?.[0];
  if (!id) return null;
  const rest = link.slice(before.length + id.length);
  return rest.startsWith(after) && /^(?:[?&#].*)?$/.test(rest.slice(after.length)) ? id : null;
}
