import type { z } from 'zod';
import type { AlternatesAnswer, makeAlternateRequest, pinRequest } from '@/contract/api';
import { writeAlternates, type Alternates } from '@/core/alternates/alternates';
import { countSubjects, namesOfSubjects } from '@/store/subjects';
import type { FileWrite, StateRow } from '@/store/themes';
import { layerItem, writeFiles } from './files';
import { refuse } from './refusal';
import type { Shop } from './shop';

const kinds = ['product', 'category', 'listing', 'content', 'article', 'articles', 'home', 'cart'] as const;

/** Templates by kind of page, and who has which. */
export function alternatesOf(shop: Shop, draft: StateRow): AlternatesAnswer {
  const { theme, alternates, wrong } = shop.theme(draft);
  const subjects = namesOfSubjects(shop.sql, alternates.pins);
  const totals = countSubjects(shop.sql);
  const types = shop.sql
    .all<{ type: string }>("SELECT DISTINCT type FROM product WHERE type <> '' ORDER BY type")
    .map((row) => row.type);
  return {
    types,
    wrong,
    kinds: kinds.map((kind) => {
      const pins = alternates.pins.filter((pin) => pin.kind === kind);
      const present = pins.filter(
        (pin) => subjects.has(`${kind} ${pin.slug}`) && theme.file(`${kind}/${pin.alternate}.html`),
      );
      const total = totals[kind] ?? 0;
      const registered = alternates.alternates.filter((one) => one.kind === kind);
      const templates = [
        { name: 'default', label: 'default', note: 'everything not assigned below', types: [] as string[] },
        ...registered,
      ];
      return {
        kind,
        subjects: total,
        templates: templates.map(({ name, label, note, types: meant }) => {
          const file = `${kind}/${name}.html`;
          const served = theme.file(file);
          const own = pins.filter((pin) => pin.alternate === name);
          return {
            name,
            label,
            note,
            types: meant,
            file,
            layer: served ? layerItem(served.layer) : null,
            count: name === 'default' ? total - present.length : present.filter((pin) => pin.alternate === name).length,
            pinned: own.map(({ slug }) => {
              const found = subjects.get(`${kind} ${slug}`);
              const unmeant =
                kind === 'product' && meant.length > 0 && found !== undefined && !meant.includes(found.detail);
              return { kind, slug, name: found?.name ?? slug, detail: found?.detail ?? '', gone: !found, unmeant };
            }),
          };
        }),
      };
    }),
  };
}

/** Makes an alternate: a copy of a template of the same kind in the shop's layer, and its entry. Both or neither. */
export function makeAlternate(
  shop: Shop,
  draft: StateRow,
  asked: z.output<typeof makeAlternateRequest>,
  by = '',
): void {
  const { kind, name, label, note, types, from } = asked;
  const { theme, alternates } = shop.theme(draft);
  const file = `${kind}/${name}.html`;
  const source = theme.file(`${kind}/${from}.html`);
  if (name === 'default')
    refuse(409, 'name', '“default” is the template that serves when nothing is assigned: choose another name.');
  if (!source || source.text === null) refuse(404, 'template', `There is no template “${kind}/${from}” to start from.`);
  const taken = alternates.alternates.find((one) => one.kind === kind && one.name === name);
  if (taken || theme.file(file)) {
    refuse(409, 'name', `“${kind}/${name}” is taken${taken ? ` by “${taken.label}”` : ''}: choose another name.`);
  }
  const twin = alternates.alternates.find(
    (one) => one.kind === kind && one.label.toLowerCase() === label.toLowerCase(),
  );
  if (twin) refuse(409, 'label', `The label “${label}” is taken by “${kind}/${twin.name}”: choose another.`);
  const list = { ...alternates, alternates: [...alternates.alternates, { kind, name, label, note, types }] };
  const files = [{ path: file, bytes: Buffer.from(source?.text ?? ''), expected: null }, assignments(list)];
  writeFiles(shop, draft, files, `Alternate “${label}” made`, by);
}

/** Pins subjects to an alternate, or (null) takes their pins away. All subjects must be there. */
export function pinSubjects(
  shop: Shop,
  draft: StateRow,
  { subjects, alternate }: z.output<typeof pinRequest>,
  by = '',
): void {
  const { theme, alternates } = shop.theme(draft);
  if (alternate !== null) {
    const known = namesOfSubjects(shop.sql, subjects);
    for (const { kind, slug } of subjects) {
      if (!known.has(`${kind} ${slug}`))
        refuse(404, 'subject', `There is no ${kind} “${slug}” any more: it was removed or renamed.`);
      if (!theme.file(`${kind}/${alternate}.html`))
        refuse(404, 'template', `There is no template “${kind}/${alternate}”.`);
    }
  }
  const same = (pin: { kind: string; slug: string }) =>
    subjects.some((one) => one.kind === pin.kind && one.slug === pin.slug);
  const pins = alternates.pins.filter((pin) => !same(pin));
  if (alternate !== null && alternate !== 'default')
    pins.push(...subjects.map(({ kind, slug }) => ({ kind, slug, alternate })));
  const [first] = subjects;
  const whose = subjects.length === 1 ? `${first?.kind} ${first?.slug}`.trim() : `${subjects.length} pages`;
  const title = alternate === null ? `Pin of ${whose} taken away` : `${whose} pinned to ${alternate}`;
  writeFiles(shop, draft, [assignments({ ...alternates, pins })], title, by);
}

const assignments = (alternates: Alternates): FileWrite => ({
  path: 'alternates.json',
  bytes: Buffer.from(writeAlternates(alternates)),
});
