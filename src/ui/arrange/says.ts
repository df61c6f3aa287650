import type { ArrangeAnswer, PieceItem, ShelfItem } from '@/contract/arrange';
import { type InputEntry, type Placed, placementOfShelf } from '@/core/theme';
import { textOf } from './arrange-store';

type Standing = ShelfItem['placements'][number];

/** Why a placement is not shown here, in a few words; null: it is shown. */
export function whyNot(standing: Standing | null, piece: PieceItem | undefined): string | null {
  if (!standing) return piece ? null : 'there is no such piece';
  const { why, input } = standing;
  if (why === 'missing') {
    const label = piece?.takes.find(({ name }) => name === input)?.label ?? input;
    return `not shown: ${label} is empty`;
  }
  if (why === 'hidden') return 'hidden';
  if (why === 'date') return 'not today';
  if (why === 'condition') return 'not here: its condition does not hold';
  return why === 'full' ? 'not shown: the shelf is full' : null;
}

const day = (iso: string): string =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
    new Date(`${iso}T00:00:00Z`),
  );

/** Its days, as `1 Dec – 6 Jan, every year`; null: always. */
export function standsWhen({ from, to, yearly }: Pick<Placed, 'from' | 'to' | 'yearly'>): string | null {
  if (from === undefined && to === undefined) return null;
  const days = from && to ? `${day(from)} – ${day(to)}` : from ? `from ${day(from)}` : `until ${day(String(to))}`;
  return yearly ? `${days}, every year` : days;
}

/** What a placement says, in one line: its first text, or what it names. */
export function gist(one: Placed, piece: PieceItem | undefined, { locales }: Pick<ArrangeAnswer, 'locales'>): string {
  for (const { name } of piece?.takes ?? []) {
    const said = inWords(one.inputs[name], locales);
    if (said) return said;
  }
  return '';
}

function inWords(value: InputEntry | undefined, locales: readonly string[]): string {
  if (value === undefined || typeof value === 'boolean') return '';
  if (typeof value === 'number') return '';
  if (Array.isArray(value)) return value.join(', ');
  if (typeof value === 'object' && 'field' in value) return `from ${value.field}`;
  if (typeof value === 'object' && 'phrase' in value) return `phrase ${value.phrase}`;
  const text = locales.map((locale) => textOf(value, locale)).find(Boolean) ?? '';
  return text
    .replace(/<[^>]*>/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
}

/** What a shelf is called among all of the page: one of a placement after that too. */
export function shelfLabel(
  shelf: Pick<ShelfItem, 'name' | 'label'>,
  placements: readonly Pick<Placed, 'id' | 'piece'>[],
  { pieces }: Pick<ArrangeAnswer, 'pieces'>,
): string {
  const of = placementOfShelf(shelf.name);
  const one = placements.find(({ id }) => id === of?.id);
  const piece = one && pieces.find(({ name }) => name === one.piece);
  return piece ? `${piece.label}: ${shelf.label}` : shelf.label;
}
