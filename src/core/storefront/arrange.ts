import type { Subject } from '@/core/address';
import { isRecord, missingInput, placedInputs, record, type Value } from '@/core/language';
import { notHere, type NotHere, placementOf, shelfCalled, type Shelf, type ShelfEntry } from '@/core/theme';
import { factsOf, findData } from './find';
import type { PageRequest } from './request';
import { services } from './services';
import { Setting } from './setting';

/** How a placement stands on a page: shown, or why not. */
export interface Standing {
  id: string | null;
  why: Exclude<NotHere, 'elsewhere'> | 'missing' | 'full' | null;
  /** With `missing`: the required input that is empty. */
  input: string | null;
}

/** A page's shelves, in the order in which its templates ask for them, each with what stands there. */
export interface ArrangedPage {
  subject: (Subject & { name: string }) | null;
  template: string;
  shelves: { name: string; shelf: Shelf | null; placements: Standing[] }[];
  /** What a field of the subject holds. */
  valueOf(path: string): Value;
}

/** The shelves of a page, with why each placement that is meant for it is shown or not. What belongs to other pages is left out. */
export function arrangedPage(request: PageRequest): ArrangedPage {
  const setting = new Setting(request);
  const { theme, chooser } = setting;
  const found = findData(setting);
  const kind = found?.subject.kind;
  const template =
    found && kind
      ? chooser.choose({ kind }, found.subject.slug, factsOf(found), request.tried).template
      : 'not-found/default';
  const page = setting.shelvesPage(template, found);
  const data = found?.data ?? record({});
  const asked = new Set<string>();
  // What does not show today is drawn too, for the shelves that it has itself.
  setting.render(template, data, (shelf) => {
    asked.add(shelf);
    return theme.shelves.flatMap((one) =>
      one.shelf === shelf && notHere(one, page) !== 'elsewhere' ? placementOf(one, page.locales) : [],
    );
  });
  const able = { ...services(setting, request.prefix), ...(request.rich ? { rich: request.rich } : {}) };
  const bound = (path: string): Value => {
    let value: Value = data;
    for (const step of path.split('.')) value = isRecord(value) ? ((value[step] as Value | undefined) ?? null) : null;
    return value;
  };
  const standing = (one: ShelfEntry): Omit<Standing, 'id'> | null => {
    const why = notHere(one, page);
    if (why === 'elsewhere') return null;
    if (why) return { why, input: null };
    const takes = theme.template(one.piece)?.takes ?? [];
    const { inputs } = placementOf(one, page.locales);
    const missing = missingInput(takes, placedInputs(inputs, takes, able, bound));
    return { why: missing ? 'missing' : null, input: missing?.name ?? null };
  };
  const shelves = [...asked].map((name) => {
    const found = shelfCalled(name, theme, theme.shelves, theme.shelfPlaces);
    const shelf = 'wrong' in found ? null : found;
    const most = shelf?.most ?? Infinity;
    let shown = 0;
    const placements = theme.shelves.flatMap((one): Standing[] => {
      const stands = one.shelf === name ? standing(one) : null;
      if (!stands) return [];
      const full = stands.why === null && ++shown > most;
      return [{ id: one.id ?? null, ...stands, ...(full ? { why: 'full' as const } : {}) }];
    });
    return { name, shelf, placements };
  });
  return { subject: found && { ...found.subject, name: found.name }, template, shelves, valueOf: bound };
}
