import type { FieldUsesAnswer, ValueUsesAnswer } from '@/contract/records';
import { type Condition, leavesOf } from '@/core/alternates';
import { addressOf, isAddressed, partOfFact, saysOf, type FieldShape, type FieldSubject } from '@/core/catalogue';
import { fieldUses, type NamedThing, renamedUses, valueUses } from '@/core/editing';
import { readFieldValue } from '@/core/exchange';
import type { ObjectTypes } from '@/core/language';
import type { Shop } from '@/server/shop';
import { countHaving, eachFieldValue, menusTo, partCounts, type FileWrite, type StateRow } from '@/store';

/**
 * Which templates, shelves and rules of a draft use a part of a kind of record (`summary`; of a custom field `fields.lead_time`), and how
 * many records have something there.
 */
export function usedBy(shop: Shop, draft: StateRow, { kind, part }: { kind: string; part: string }): FieldUsesAnswer {
  const { theme, alternates } = shop.theme(draft);
  const says = new Set(saysOf(kind, part));
  const names = new Set([...says].map((one) => one.slice(one.indexOf('.') + 1)));
  const objects = new Set([...says].map((one) => one.slice(0, one.indexOf('.'))));
  // What is read of something that the source does not name may be of this too.
  const isRead = ({ object, field }: { object: string | null; field: string | null }) =>
    object === null
      ? field === null || names.has(field)
      : field === null
        ? objects.has(object)
        : says.has(`${object}.${field}`);
  const labels = new Map(alternates.alternates.map((one) => [`${one.kind} ${one.name}`, one.label]));
  const asks = (when: Condition) =>
    [...leavesOf(when)].some(({ fact, name }) =>
      fact === 'field' ? part === `fields.${name}` : partOfFact[fact] === part,
    );
  return {
    ...partCounts(shop.sql, kind, part),
    templates: distinct(
      fieldUses(theme)
        .filter(isRead)
        .map(({ file, line, text }) => ({ file, line, text })),
    ),
    shelves: theme.shelves.flatMap(({ shelf, piece, inputs, hidden, kind: of, when }) =>
      !hidden &&
      ((of === kind && when && asks(when)) ||
        Object.values(inputs).some(
          (input) =>
            typeof input === 'object' && 'field' in input && [...readsOfPath(input.field, theme.types)].some(isRead),
        ))
        ? [{ shelf, piece }]
        : [],
    ),
    rules: alternates.rules.flatMap((rule, at) =>
      rule.kind === kind && asks(rule.when)
        ? [{ number: at + 1, label: labels.get(`${rule.kind} ${rule.alternate}`) ?? rule.alternate }]
        : [],
    ),
  };
}

/** What a path such as `product.brand.name` reads, step by step. */
function* readsOfPath(path: string, types: ObjectTypes | null): Generator<{ object: string | null; field: string }> {
  const [root = '', ...names] = path.split('.');
  let object: string | null = `${root.charAt(0).toUpperCase()}${root.slice(1)}`;
  for (const field of names) {
    yield { object, field };
    object = (object === null ? null : types?.fields(object)?.get(field)?.object) ?? null;
  }
}

/** Each line once, however often it names a field. */
const distinct = <Use extends { file: string; line: number }>(uses: readonly Use[]): Use[] => [
  ...new Map(uses.map((use) => [`${use.file} ${use.line}`, use])).values(),
];

/** Which files of a draft, and which menus, name something of the catalogue; how many products have it. */
export function usesOf(shop: Shop, draft: StateRow, { of, value }: { of: NamedThing; value: string }): ValueUsesAnswer {
  const { theme } = shop.theme(draft);
  const uses = valueUses(theme).filter((use) => use.of === of && use.value === value);
  return {
    uses: [...new Map(uses.map((use) => [`${use.where} ${use.layer} ${use.file} ${use.line}`, use])).values()].map(
      ({ where, file, layer, line, text }) => ({ where, file, layer, line, text }),
    ),
    menus: isAddressed(of) ? menusTo(shop.sql, addressOf(of, value)) : [],
    having: countHaving(shop.sql, of, value),
  };
}

/** Another slug in place of an earlier one, wherever files of the draft's own name it. Other layers' files go on naming the earlier one. */
export function planFollow(
  shop: Shop,
  draft: StateRow,
  { of, from, to }: { of: NamedThing; from: string; to: string },
): { revision: number; files: FileWrite[]; title: string } {
  const { theme } = shop.theme(draft);
  const own = theme.layers.at(-1);
  const texts = own ? renamedUses(own, valueUses(theme), { of, value: from }, to) : new Map<string, string>();
  return {
    revision: draft.revision,
    files: [...texts].map(([path, text]) => ({
      path,
      bytes: Buffer.from(text),
      expected: own?.files.get(path)?.hash ?? null,
    })),
    title: `${of} ${from} is ${to}`,
  };
}

/** Values of a custom field that would not fit if it held something else: how many, and some of them. They stay as they are all the same. */
export function misfits(
  shop: Shop,
  { subject, key, ...shape }: FieldShape & { subject: FieldSubject; key: string },
): { count: number; examples: { slug: string; value: string }[] } {
  const examples: { slug: string; value: string }[] = [];
  let count = 0;
  for (const one of eachFieldValue(shop.sql, subject, key))
    if (typeof readFieldValue(one.value, shape) === 'object' && ++count <= maxMisfits) examples.push(one);
  return { count, examples };
}

/** Misfits that are named. */
const maxMisfits = 5;
