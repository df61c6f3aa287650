import { isFieldSubject, severalValues } from '@/core/catalogue';
import { subjectKinds } from '@/core/address';
import type { z } from 'zod';
import type { LayerItem } from '@/contract/shared';
import type {
  AlternatesAnswer,
  AlternatesTarget,
  EditAnswer,
  FactsOfKind,
  makeAlternateRequest,
  TemplateItem,
} from '@/contract/alternates';
import {
  saidWrong,
  sameTarget,
  targetKey,
  templateOf,
  writeAlternates,
  type Alternates,
  type Target,
  edited,
  EditRefused,
  registered,
  renamed,
  retired,
  type AlternatesEdit,
  subjectInput,
  sayCondition,
  sayDays,
} from '@/core/alternates';
import { factSpecs, type SubjectKind } from '@/core/catalogue';
import { renamedFiles, usesOf } from '@/core/editing';
import type { Theme } from '@/core/theme';
import {
  attributeNames,
  attributeValues,
  fieldValues,
  productTypes,
  namesOfSubjects,
  type FileWrite,
  type StateRow,
} from '@/store';
import { arrangedPages } from './arranged';
import { applied, type Edit, layerItem, renameWrites } from '@/server/drafts';
import { today } from '@/server/storefront';
import { refuse } from '@/server/http';
import { type Shop, wordingOf } from '@/server/shop';

/** Everything that can have alternates: each kind of page, and each piece that takes a subject. */
export function targetsOf(theme: Theme): Target[] {
  const beside = new Set(theme.assignments.alternates.alternates.map((one) => templateOf(one, one.name)));
  const pieces = theme.names().flatMap((name): Target[] => {
    if (!name.startsWith('pieces/') || beside.has(name)) return [];
    const template = theme.template(name);
    const input = template && subjectInput(template);
    return input ? [{ kind: input.kind, piece: name }] : [];
  });
  return [...subjectKinds.map((kind): Target => ({ kind })), ...pieces];
}

/** Templates of every target, with the pins and rules in their order. */
export function alternatesOf(shop: Shop, draft: StateRow): AlternatesAnswer {
  const { theme, alternates, wrong, key } = shop.theme(draft);
  const words = wordingOf(shop);
  const arranged = arrangedPages(theme);
  const subjects = namesOfSubjects(shop.sql, [...alternates.pins, ...arranged.values()]);
  const order = [...subjectKinds];
  const targets = targetsOf(theme).map((target): AlternatesTarget => {
    const { kind } = target;
    const own = <T extends Target>(list: readonly T[]) => list.filter((one) => sameTarget(one, target));
    const templates = [
      { name: 'default', label: 'default', note: 'whatever is not assigned', types: [] as string[] },
      ...own(alternates.alternates),
    ];
    return {
      ...target,
      key: targetKey(target),
      templates: templates.map((one) => templateItem(theme, target, one)),
      pins: own(alternates.pins).map(({ slug, alternate }) => {
        const found = subjects.get(`${kind} ${slug}`);
        return { slug, alternate, name: found?.name ?? slug, detail: found?.detail ?? '', gone: !found };
      }),
      rules: own(alternates.rules).map((rule) => ({
        ...rule,
        says: sayCondition(kind, rule.when, words),
        days: sayDays(rule, words),
      })),
      arranged: [...arranged.values()]
        .filter((page) => page.kind === kind && target.piece === undefined)
        .map(({ slug, pieces }) => {
          const found = subjects.get(`${kind} ${slug}`);
          return { slug, name: found?.name ?? slug, pieces, gone: !found };
        }),
    };
  });
  targets.sort(
    (a, b) =>
      order.indexOf(a.kind) - order.indexOf(b.kind) || Number(a.piece !== undefined) - Number(b.piece !== undefined),
  );
  const pages = targets.filter(({ piece }) => piece === undefined);
  const pieces = targets.filter(({ piece }) => piece !== undefined);
  const day = today();
  return {
    types: productTypes(shop.sql),
    wrong: wrong.map(({ path, line, says }) => ({ path, line, says })),
    targets: [...pages, ...pieces],
    today: day,
    version: `${key} ${day}`,
  };
}

function templateItem(
  theme: Theme,
  target: Target,
  one: Pick<TemplateItem, 'name' | 'label' | 'note' | 'types'>,
): TemplateItem {
  const template = templateOf(target, one.name);
  const file = `${template}.html`;
  const served = theme.file(file);
  return {
    name: one.name,
    label: one.label,
    note: one.note,
    types: one.types,
    file,
    layer: served ? layerItem(served.layer) : null,
    amends:
      served && theme.amends(served)
        ? (theme
            .parts(template)
            .at(-2)
            ?.path.replace(/\.html$/, '') ?? template)
        : null,
    whole: wholeOf(theme, template)?.layer ?? null,
  };
}

/** What rules can ask about subjects of a kind, with what there is to choose from. */
export function factsOfKind(shop: Shop, kind: SubjectKind): FactsOfKind {
  const source = shop.catalogue();
  const { currency } = source.shop();
  const named = (rows: readonly { slug: string; name: string }[]) =>
    rows.map(({ slug, name }) => ({ value: slug, label: name }));
  const plain = (values: readonly string[]) => values.map((value) => ({ value, label: value }));
  const options = {
    tag: () => named(source.allTags()),
    brand: () => named(source.brands()),
    type: () => plain(productTypes(shop.sql)),
    category: () => {
      const rows = source.categories();
      const depth = (id: number | null, seen: number[] = []): number => {
        const row = rows.find((one) => one.id === id);
        return row && !seen.includes(row.id) ? 1 + depth(row.parentId, [...seen, row.id]) : 0;
      };
      return rows.map((row) => ({
        value: row.slug,
        label: `${'– '.repeat(Math.max(0, depth(row.id) - 1))}${row.name}`,
      }));
    },
  };
  const fixed: Record<string, string[]> = {
    kind: ['all', 'offer', 'search', 'tag', 'brand', 'category'],
    view: ['grid', 'list'],
  };
  const facts: FactsOfKind['facts'] = factSpecs[kind].map(({ fact, type, label, of }) => ({
    fact,
    name: null,
    label,
    type,
    unit: '',
    options: of ? options[of]() : kind === 'listing' && fixed[fact] ? plain(fixed[fact]) : null,
  }));
  /** The texts to choose from; null where there are too many. */
  const maxOptions = 200;
  const listed = (found: string[]) => (found.length > maxOptions ? null : plain(found));
  if (kind === 'product') {
    for (const name of attributeNames(shop.sql))
      facts.push({
        fact: 'attribute',
        name,
        label: `attribute ${name}`,
        type: 'text',
        unit: '',
        options: listed(attributeValues(shop.sql, name, maxOptions + 1)),
      });
  }
  if (isFieldSubject(kind)) {
    for (const { key, name, type, unit, several, choices } of source.fieldDefinitions(kind)) {
      const text = several ? 'set' : type === 'number' || type === 'flag' || type === 'day' ? type : 'text';
      const told = (stored: string[]) => (several ? [...new Set(stored.flatMap(severalValues))].sort() : stored);
      const values = () =>
        choices.length ? plain([...choices]) : listed(told(fieldValues(shop.sql, kind, key, maxOptions + 1)));
      facts.push({
        fact: 'field',
        name: key,
        label: name,
        type: text,
        unit,
        options: type === 'text' ? values() : null,
      });
    }
  }
  return { currency, facts };
}

/** Works out an edit of a draft's assignments, and of the files that belong to it. */
function planned(
  shop: Shop,
  draft: StateRow,
  work: (all: Alternates, theme: Theme) => { all: Alternates; files?: FileWrite[]; title: string },
): Edit {
  const { theme, alternates, wrong, left } = shop.theme(draft);
  const broken = wrong.find(({ path }) => path === '');
  if (broken)
    refuse(
      409,
      'broken',
      `${saidWrong(broken)} (line ${broken.line}). Fix it on the Bench first: nothing of it can be read as it stands.`,
    );
  try {
    const { all, files = [], title } = work(alternates, theme);
    const text = writeAlternates(all, left);
    const same = text === theme.file('alternates.json')?.text && !files.length;
    const expected = shop.themes.ownHash(draft.id, 'alternates.json');
    const own = { path: 'alternates.json', bytes: Buffer.from(text), expected };
    return { revision: draft.revision, files: same ? [] : [...files, own], title };
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    return refuse(error.code === 'gone' ? 404 : 409, error.code, error.message);
  }
}

/** An edit that is planned and written at once. */
const atOnce =
  <Asked>(plan: (shop: Shop, draft: StateRow, asked: Asked) => Edit) =>
  (shop: Shop, draft: StateRow, asked: Asked, by = ''): EditAnswer => {
    const { change } = applied(shop, draft.slug ?? '', (now) => plan(shop, now, asked), by);
    return { change };
  };

const named = (all: Alternates, target: Target, name: string): string =>
  all.alternates.find((one) => sameTarget(one, target) && one.name === name)?.label ?? name;

/** Does one edit. Subjects that are pinned must be there. */
export function planEdit(shop: Shop, draft: StateRow, edit: AlternatesEdit): Edit {
  return planned(shop, draft, (all, theme) => {
    if (edit.do === 'pin' && edit.alternate !== null) refusePins(shop, theme, edit);
    if (edit.do === 'put-rule' && !theme.file(`${templateOf(edit.rule, edit.rule.alternate)}.html`))
      refuse(404, 'template', `There is no template “${templateOf(edit.rule, edit.rule.alternate)}”: choose another.`);
    return { all: edited(all, edit), title: titleOf(shop, all, edit) };
  });
}
export const editAlternates = atOnce(planEdit);

function refusePins(shop: Shop, theme: Theme, edit: Extract<AlternatesEdit, { do: 'pin' }>): void {
  const { kind, slugs, alternate } = edit;
  const known = namesOfSubjects(
    shop.sql,
    slugs.map((slug) => ({ kind, slug })),
  );
  const gone = slugs.find((slug) => !known.has(`${kind} ${slug}`));
  if (gone !== undefined) refuse(404, 'subject', `There is no ${kind} “${gone}” any more: it was removed or renamed.`);
  const template = templateOf(edit, alternate as string);
  if (!theme.file(`${template}.html`)) refuse(404, 'template', `There is no template “${template}”.`);
}

/** What an edit is called in the history. */
function titleOf(shop: Shop, all: Alternates, edit: AlternatesEdit): string {
  const said = (id: string) => {
    const rule = all.rules.find((one) => one.id === id);
    return rule ? `${named(all, rule, rule.alternate)}: ${sayCondition(rule.kind, rule.when, wordingOf(shop))}` : id;
  };
  switch (edit.do) {
    case 'pin': {
      const [first] = edit.slugs;
      const whose = edit.slugs.length === 1 ? `${edit.kind} ${first}`.trim() : `${edit.slugs.length} pages`;
      if (edit.alternate === null) return `Pin of ${whose} removed`;
      return `${whose} pinned to ${named(all, edit, edit.alternate)}`;
    }
    case 'keep-pin':
      return `One pin of ${edit.slug} kept`;
    case 'put-rule':
      return `Rule ${edit.was ? 'changed' : 'added'} for ${named(all, edit.rule, edit.rule.alternate)}`;
    case 'remove-rule':
      return `Rule removed: ${said(edit.id)}`;
    case 'drop-value':
      return `“${edit.value}” taken out of the rule ${said(edit.id)}`;
    case 'order':
      return `Order of ${edit.of} for ${targetKey(edit)}`;
    case 'describe':
      return `Alternate “${edit.label}” described`;
  }
}

/** Makes an alternate: a file in the shop's layer (a copy of a template of the same target, or an amendment of it), and its entry. Both or neither. */
export function planAlternate(
  shop: Shop,
  draft: StateRow,
  asked: Omit<z.output<typeof makeAlternateRequest>, 'as'> & { as?: 'changes' | 'copy' | 'empty' },
): Edit {
  const { kind, piece, name, label, note, types, from, as = 'copy' } = asked;
  const target: Target = piece === undefined ? { kind } : { kind, piece };
  return planned(shop, draft, (all, theme) => {
    const original = templateOf(target, from);
    if (name === 'default')
      refuse(409, 'name', '“default” is the template that serves when nothing is assigned: choose another name.');
    const source = theme.file(`${original}.html`);
    if (!source || source.text === null) refuse(404, 'template', `There is no template “${original}” to start from.`);
    if (piece !== undefined && !targetsOf(theme).some((one) => sameTarget(one, target)))
      refuse(409, 'piece', `“${piece}” is given no ${kind}: it cannot differ by one.`);
    const template = templateOf(target, name);
    const taken = all.alternates.find((one) => sameTarget(one, target) && one.name === name);
    if (taken || theme.file(`${template}.html`))
      refuse(409, 'name', `“${template}” is taken${taken ? ` by “${taken.label}”` : ''}: choose another name.`);
    const entry = { ...target, name, label, note, types };
    const text =
      as === 'changes' ? `<amend of="${original}">\n</amend>\n` : as === 'copy' ? copyOf(theme, original) : '\n';
    return {
      all: registered(all, entry),
      files: [{ path: `${template}.html`, bytes: Buffer.from(text), expected: null }],
      title: `Alternate “${label}” made`,
    };
  });
}
export const makeAlternate = atOnce(planAlternate);

/** The file that a template begins with, below the amendments of it; of one that amends another by name, its own file. */
function wholeOf(theme: Theme, name: string): { text: string | null; layer: LayerItem } | null {
  const parts = theme.parts(name);
  const part = parts.find(({ path }) => path === `${name}.html`);
  return part ? { text: part.text, layer: layerItem(part.layer) } : null;
}

/** The file that a template begins with, without what layers above change in it: an amendment would change the wrong file. */
const copyOf = (theme: Theme, name: string): string => wholeOf(theme, name)?.text ?? '';

/** Makes the missing file of an alternate from the default. */
export function planFile(shop: Shop, draft: StateRow, target: Target & { name: string }): Edit {
  return planned(shop, draft, (all, theme) => {
    const path = `${templateOf(target, target.name)}.html`;
    if (theme.file(path)) refuse(409, 'same', `“${path}” is there already.`);
    const text = `<amend of="${templateOf(target, 'default')}">\n</amend>\n`;
    return { all, files: [{ path, bytes: Buffer.from(text), expected: null }], title: `${path} made` };
  });
}
export const makeFile = atOnce(planFile);

/** Gives an alternate another name: its file, pins and rules follow. */
export function planRename(shop: Shop, draft: StateRow, asked: Target & { name: string; to: string }): Edit {
  const { name, to } = asked;
  return planned(shop, draft, (all, theme) => {
    const [was, will] = [templateOf(asked, name), templateOf(asked, to)];
    if (!all.alternates.some((one) => sameTarget(one, asked) && one.name === name))
      refuse(404, 'template', `There is no alternate “${was}” any more.`);
    if (
      to === 'default' ||
      theme.file(`${will}.html`) ||
      all.alternates.some((one) => sameTarget(one, asked) && one.name === to)
    )
      refuse(409, 'name', `“${will}” is taken: choose another name.`);
    const moved = renamedFiles(theme, `${was}.html`, `${will}.html`).filter((one) => one.was !== 'alternates.json');
    const files = renameWrites(shop, theme, theme, moved);
    return { all: renamed(all, asked, name, to), files, title: `Alternate ${was} renamed to ${will}` };
  });
}
export const renameAlternate = atOnce(planRename);

/** Removes an alternate with its pins and rules, and its file from the shop's layer. */
export function planRetirement(shop: Shop, draft: StateRow, asked: Target & { name: string }): Edit {
  return planned(shop, draft, (all, theme) => {
    const template = templateOf(asked, asked.name);
    if (!all.alternates.some((one) => sameTarget(one, asked) && one.name === asked.name))
      refuse(404, 'template', `There is no alternate “${template}” any more.`);
    const hash = shop.themes.ownHash(draft.id, `${template}.html`);
    const goes = hash !== null && theme.everywhere(`${template}.html`).length === 1;
    const [use] = goes
      ? usesOf(theme, { kind: 'piece', name: template, of: '' }).filter(({ file }) => file !== `${template}.html`)
      : [];
    if (use)
      refuse(
        409,
        'used',
        `“${use.file}” needs it in line ${use.line}: ${use.text} Let it name another template first, or retire it as well.`,
      );
    return {
      all: retired(all, asked, asked.name),
      ...(hash === null ? {} : { files: [{ path: `${template}.html`, bytes: null, expected: hash }] }),
      title: `Alternate “${named(all, asked, asked.name)}” retired`,
    };
  });
}
export const retireAlternate = atOnce(planRetirement);
