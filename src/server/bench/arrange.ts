import type { z } from 'zod';
import type { ArrangeAnswer, arrangeRequest, PieceItem } from '@/contract/arrange';
import type { Template } from '@/core/language';
import { arrangedPage } from '@/core/storefront';
import { piecesFor, placeableOf } from '@/core/theme';
import type { Shop } from '@/server/shop';
import { requestOf } from '@/server/storefront';
import type { StateRow } from '@/store';
import { readable, readAsk } from './preview';

/** The shelves of a page with what is typed, and all that its forms are made from. */
export function arrangeAt(shop: Shop, draft: StateRow, asked: z.output<typeof arrangeRequest>): ArrangeAnswer {
  const unsaved = asked.unsaved.filter(readable);
  const { theme } = shop.themeWith(draft, unsaved);
  const request = requestOf(shop, draft, {
    ...readAsk(asked.address, asked.try),
    unsaved,
    ...(asked.on ? { on: asked.on } : {}),
  });
  const { subject, template, shelves } = arrangedPage(request);
  const pieces = new Map<string, PieceItem>();
  const tell = (name: string) => {
    const found = pieces.has(name) ? null : theme.template(name);
    if (found) pieces.set(name, pieceOf(name, found));
  };
  for (const { piece } of theme.shelves) tell(piece);
  return {
    subject,
    template,
    locales: shop.catalogue().shop().locales,
    shelves: shelves.flatMap(({ name, placements }) => {
      const shelf = theme.shelfPlaces.get(name)?.shelf;
      if (!shelf) return [];
      const fitting = piecesFor(theme, shelf);
      for (const piece of fitting) tell(piece);
      const { label, help, least, most } = shelf;
      return [{ name, label: label || name, help: help ?? '', least, most, pieces: fitting, placements }];
    }),
    pieces: [...pieces.values()],
    below: theme
      .everywhere('shelves.json')
      .filter(({ layer }) => layer.kind !== 'shop')
      .map(({ text }) => text ?? ''),
  };
}

/** A piece as it is offered: by its label, else by its file's name. */
function pieceOf(name: string, template: Template): PieceItem {
  const offered = placeableOf(template);
  const plain = name.slice(name.lastIndexOf('/') + 1).replaceAll('-', ' ');
  return {
    name,
    label: offered?.label || plain.charAt(0).toUpperCase() + plain.slice(1),
    help: offered?.help ?? '',
    takes: template.takes.map((take) => ({
      name: take.name,
      type: take.type,
      label: take.label || take.name,
      help: take.help ?? '',
      required: take.required && take.default === null,
      default: take.default,
      options: [...take.options],
      least: take.least,
      most: take.most,
      unit: take.unit ?? '',
    })),
  };
}
