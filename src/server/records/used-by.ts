import type { FieldUsesAnswer, ValueUsesAnswer } from '@/contract/records';
import { leavesOf } from '@/core/alternates';
import { addressOf, isAddressed, type FieldShape, type FieldSubject } from '@/core/catalogue';
import { fieldUses, type NamedThing, renamedUses, valueUses } from '@/core/editing';
import { readFieldValue } from '@/core/exchange';
import type { Shop } from '@/server/shop';
import { countHaving, eachFieldValue, fieldCounts, menusTo, type FileWrite, type StateRow } from '@/store';

/** Which templates and rules of a draft use each custom field of a kind of subject, and how many of them have it. */
export function usedBy(shop: Shop, draft: StateRow, subject: FieldSubject): FieldUsesAnswer {
  const { theme, alternates } = shop.theme(draft);
  const { all, filled } = fieldCounts(shop.sql, subject);
  const uses = fieldUses(theme).filter((use) => use.subject === subject || use.subject === null);
  const labels = new Map(alternates.alternates.map((one) => [`${one.kind} ${one.name}`, one.label]));
  const rules = alternates.rules.filter(({ kind }) => kind === subject);
  const fields = shop
    .catalogue()
    .fieldDefinitions(subject)
    .map(({ key }) => ({
      key,
      filled: filled.get(key) ?? 0,
      templates: distinct(
        uses.filter((use) => use.key === key || use.key === null).map(({ file, line, text }) => ({ file, line, text })),
      ),
      shelves: theme.shelves.flatMap(({ shelf, piece, inputs, hidden }) =>
        !hidden &&
        Object.values(inputs).some((input) => typeof input === 'object' && input.field === `${subject}.fields.${key}`)
          ? [{ shelf, piece }]
          : [],
      ),
      rules: rules.flatMap((rule, at) =>
        [...leavesOf(rule.when)].some(({ fact, name }) => fact === 'field' && name === key)
          ? [{ number: at + 1, label: labels.get(`${rule.kind} ${rule.alternate}`) ?? rule.alternate }]
          : [],
      ),
    }));
  return { all, fields };
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
