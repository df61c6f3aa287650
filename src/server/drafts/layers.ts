import type { z } from 'zod';
import type { ContentAnswer } from '@/contract/history';
import type { DriftAnswer, LayersAnswer, LookAnswer, settleRequest } from '@/contract/layers';
import { fontsOf, standingOf, type Layer, isAmendment, placesLostSince, type OwnFile } from '@/core/theme';
import type { StateRow } from '@/store';
import { contentOf } from './compare';
import { layerItem, writeFiles, wrongText } from './files';
import { refuse } from '@/server/http';
import { textual, type Shop } from '@/server/shop';

/** The shop's own files of a state with what each was taken from. */
export function ownFiles(shop: Shop, stateId: number): Map<string, OwnFile> {
  const rows = shop.themes.files(shop.themes.layers(stateId).at(-1)?.id ?? 0);
  return new Map(
    rows.map(({ path, hash, bytes, origin }) => [
      path,
      {
        hash,
        text: textual.test(path) ? bytes.toString('utf8') : null,
        origin: contentOf(shop, path, origin),
      },
    ]),
  );
}

/** Every file of a state by its layers: where it is, which serves, what amends, and how the shop's own stands to what is below. */
export function layersOf(shop: Shop, state: StateRow): LayersAnswer {
  const { theme } = shop.theme(state);
  const own = ownFiles(shop, state.id);
  const rows = theme.paths().map((path) => {
    const there = new Map(theme.everywhere(path).map((file) => [file.layer, file]));
    const mine = own.get(path);
    const under = [...there.values()].filter(({ layer }) => layer.kind !== 'shop').at(-1) ?? null;
    return {
      path,
      hashes: theme.layers.map((layer) => there.get(layer)?.hash ?? null),
      amends: theme.layers.map((layer) => {
        const file = there.get(layer);
        return file !== undefined && theme.amends(file);
      }),
      standing: mine ? standingOf(path, mine, under) : null,
      text: textual.test(path),
    };
  });
  return { layers: theme.layers.map(layerItem), rows };
}

/** The bytes of any content that a path ever had, by their hash. */
export function bytesBy(shop: Shop, path: string, hash: string): Buffer {
  const bytes = shop.themes.bytesOfVersion(path, hash)?.bytes ?? shop.themes.bytesSaved(path, hash);
  return bytes ?? refuse(404, 'file', `There is no such version of “${path}”.`);
}

/** Any content that a path ever had, by its hash. */
export function contentBy(shop: Shop, path: string, hash: string): ContentAnswer {
  const bytes = bytesBy(shop, path, hash);
  return { text: textual.test(path) ? bytes.toString('utf8') : null, size: bytes.length, hash };
}

/** What a drifted file was taken from, what is below it now, and what the shop has. */
export function driftOf(shop: Shop, draft: StateRow, path: string): DriftAnswer {
  const { theme } = shop.theme(draft);
  const own = ownFiles(shop, draft.id).get(path) ?? refuse(404, 'file', `The shop has no “${path}” of its own.`);
  const under = theme
    .everywhere(path)
    .filter(({ layer }) => layer.kind !== 'shop')
    .at(-1);
  return {
    path,
    origin: own.origin?.text ?? null,
    originOf: own.origin && shop.themes.versionOf(path, own.origin.hash),
    below: under?.text ?? null,
    belowHash: under?.hash ?? null,
    belowOf: under ? named(under.layer) : '',
    own: own.text ?? '',
    hash: own.hash,
    lost: isAmendment(path, own.text) ? placesLostSince(path, own, theme.layers.slice(0, -1)) : [],
  };
}

export function lookBelow(shop: Shop, draft: StateRow): LookAnswer {
  const { theme } = shop.theme(draft);
  const values = shop.catalogue().facetValues();
  const below = theme.everywhere('look.json').filter(({ layer }) => layer.kind !== 'shop');
  return {
    below: below.map(({ text }) => text ?? ''),
    fonts: fontsOf(theme).map(({ family }) => family),
    options: shop
      .catalogue()
      .optionSlugs()
      .map((slug) => ({
        slug,
        values: values.flatMap(({ option, value }) => (option === slug ? [value] : [])),
      })),
  };
}

const named = ({ name, version }: Layer): string => `${name} ${version}`.trim();

/** Writes a drifted file merged with what is below it now: from here on it is taken from that. */
export function settle(
  shop: Shop,
  draft: StateRow,
  { path, text, expected, below }: z.output<typeof settleRequest>,
  by: string,
): void {
  const drift = driftOf(shop, draft, path);
  if (drift.belowHash !== below)
    refuse(409, 'below', `What is below “${path}” was changed meanwhile: look at it once more.`);
  const wrong = wrongText(path, text);
  if (wrong) refuse(422, 'text', wrong);
  const file = { path, bytes: Buffer.from(text), expected, origin: below };
  writeFiles(shop, draft, [file], `${path} merged with ${drift.belowOf}`, by);
}
