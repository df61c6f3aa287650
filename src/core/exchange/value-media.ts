import type { WholeProduct } from './merge-product';

type Media = WholeProduct['media'];

/** An option value that a picture shows, by slugs; null: the picture is for all of them. */
export type Shown = readonly [option: string, value: string] | null;

/** Whether a picture shows a value of an option; for all where it shows none of that option's. */
const isOf = ({ shows }: Media[number], option: string, value: string | null): boolean => {
  const own = shows.filter(([one]) => one === option);
  return value === null ? own.length === 0 : own.some(([, other]) => other === value);
};

/** Places in the list of the pictures that show a value of an option; null: of those that are for all. */
export const mediaOfValue = (media: Media, option: string, value: string | null): number[] =>
  media.flatMap((one, at) => (isOf(one, option, value) ? [at] : []));

/** The list with pictures that show a value, after those that do already. One that is in the list comes to show it too. */
export function withMedia(media: Media, added: readonly Pick<Media[number], 'kind' | 'path'>[], shown: Shown): Media {
  const next = [...media];
  for (const { kind, path } of added) {
    const at = next.findIndex((one) => one.path === path);
    const known = next[at];
    if (known) {
      if (shown && !isOf(known, ...shown)) next[at] = { ...known, shows: [...known.shows, [shown[0], shown[1]]] };
      continue;
    }
    const last = shown ? mediaOfValue(next, ...shown).at(-1) : undefined;
    const one = { kind, path, alt: '', width: null, height: null, poster: '', shows: shown ? [shown] : [], texts: {} };
    next.splice(last === undefined ? next.length : last + 1, 0, one as Media[number]);
  }
  return next;
}

/** The list with a picture showing another value of an option (null: it is for all). */
export const mediaShows = (media: Media, at: number, option: string, value: string | null): Media =>
  media.map((one, place) => {
    if (place !== at) return one;
    const others = one.shows.filter(([other]) => other !== option);
    return { ...one, shows: value === null ? others : [...others, [option, value]] };
  });

/** The list with a picture before or after the next one that shows the same. */
export function mediaMoved(media: Media, at: number, option: string, value: string | null, step: -1 | 1): Media {
  const own = mediaOfValue(media, option, value);
  const other = own[own.indexOf(at) + step];
  if (other === undefined) return media;
  const next = [...media];
  [next[at], next[other]] = [next[other] as Media[number], next[at] as Media[number]];
  return next;
}
