import type { z } from 'zod';
import type { ArrangeAnswer, arrangeRequest, PieceItem } from '@/contract/arrange';
import { readLocale } from '@/core/address';
import { fieldSubjects } from '@/core/catalogue';
import { inProse } from '@/core/inspect';
import { formatFor, type Template } from '@/core/language';
import { arrangedPage } from '@/core/storefront';
import {
  boundFields,
  canBind,
  pieceLabel,
  piecesFor,
  saidIn,
  givenBy,
  placeableOf,
  settingsOf,
  shapeOf,
  type Theme,
} from '@/core/theme';
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
  const { subject, template, shelves, valueOf } = arrangedPage(request);
  const { locale, locales } = {
    locale: readLocale(request.path, shop.catalogue().shop().locales).locale,
    locales: shop.catalogue().shop().locales,
  };
  const says = (text: string | null) => saidIn(text ?? '', [...(asked.languages ?? []), ...locales], theme);
  const pieces = new Map<string, PieceItem>();
  const tell = (name: string) => {
    const found = pieces.has(name) ? null : theme.template(name);
    if (found) pieces.set(name, pieceOf(name, found, says));
  };
  for (const { piece } of theme.shelves) tell(piece);
  const listed = shelves.flatMap(({ name, shelf, placements }) => {
    if (!shelf) return [];
    const fitting = piecesFor(theme, shelf);
    for (const piece of fitting) tell(piece);
    const { label, help, least, most } = shelf;
    return [{ name, label: says(label) || shelf.name, help: says(help), least, most, pieces: fitting, placements }];
  });
  return {
    subject,
    template,
    locales,
    shelves: listed,
    pieces: [...pieces.values()],
    fields: subject
      ? fieldsFor(shop, theme, subject.kind, [...pieces.keys()], (path) => inProse(valueOf(path), formatFor(locale)))
      : [],
    colours: settingsOf(
      theme.everywhere('look.json').map(({ text }) => text),
      null,
    ).flatMap(({ type, label, value }) => (type === 'colour' && typeof value === 'string' ? [{ label, value }] : [])),
    below: theme
      .everywhere('shelves.json')
      .filter(({ layer }) => layer.kind !== 'shop')
      .map(({ text }) => text ?? ''),
  };
}

/** A piece as it is offered: by its label, else by its file's name. */
function pieceOf(name: string, template: Template, says: (text: string | null) => string): PieceItem {
  return {
    name,
    label: says(pieceLabel(name, template)),
    help: says(placeableOf(template)?.help ?? null),
    takes: template.takes.map((take) => ({
      name: take.name,
      type: take.type,
      label: says(take.label) || take.name,
      help: says(take.help),
      required: take.required && take.default === null,
      default: take.default,
      options: [...take.options],
      least: take.least,
      most: take.most,
      unit: take.unit ?? '',
      shape: take.type === 'picture' ? shapeOf(template, take.name) : null,
    })),
  };
}

/** The fields of a kind of subject that some input can be bound to. */
function fieldsFor(
  shop: Shop,
  theme: Theme,
  kind: string,
  pieces: readonly string[],
  said: (path: string) => string,
): ArrangeAnswer['fields'] {
  const { types } = theme;
  const takes = pieces.flatMap((name) => (theme.template(name)?.takes ?? []).map((take) => ({ name, take })));
  const site = shop.facts();
  const custom = new Map<string, string>(
    fieldSubjects.flatMap((subject) =>
      shop
        .catalogue()
        .fieldDefinitions(subject)
        .map(({ key, name }) => [`${subject}.fields.${key}`, name] as const),
    ),
  );
  return [...(types ? boundFields(types, kind) : [])].flatMap(({ path, object, steps, type }) => {
    const given = givenBy(path, type, (subject) => shop.catalogue().fieldDefinitions(subject));
    const fits = takes.filter(({ take }) => canBind(take, given)).map(({ name, take }) => `${name} ${take.name}`);
    if (!fits.length) return [];
    const { empty = 0, total = 0 } = site.emptiness(object, steps) ?? {};
    return [
      { path, label: custom.get(path) ?? steps.join('.').replaceAll('_', ' '), value: said(path), empty, total, fits },
    ];
  });
}
