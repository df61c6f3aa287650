import { nearestOf, fixOf, problem, type Problem, type Template, type ThemeFacts } from '@/core/language';
import { names, type Shelf, shelvesAmong } from './fit';

/** Holds a template's shelves, and what offers it to staff, against the theme. `shelves`: the names of all that there are. */
export function checkShelfElements(
  name: string,
  template: Template,
  theme: ThemeFacts,
  shelves: () => ReadonlyMap<string, unknown>,
): Problem[] {
  return [
    ...shelvesAmong(template.children).flatMap((shelf) => ofShelf(shelf, theme)),
    ...ofPlaceables(name, template, shelves),
  ];
}

function ofShelf(shelf: Shelf, theme: ThemeFacts): Problem[] {
  const { source, values, least, most } = shelf;
  const problems: Problem[] = [];
  for (const bound of ['least', 'most'] as const) {
    const at = values.get(bound);
    if (at && (shelf[bound] === null || shelf[bound] === 0))
      problems.push(problem('shelf', source, at, { text: `“${bound}” of a <shelf> is a whole number, 1 or more` }));
  }
  const at = values.get('most');
  if (at && least !== null && most !== null && most < least)
    problems.push(problem('shelf', source, at, { text: `At most ${most} cannot be at least ${least}` }));
  const takes = values.get('takes');
  let from = takes?.from ?? 0;
  for (const written of takes ? source.slice(takes.from, takes.to).split(',') : []) {
    const begins = from + written.length - written.trimStart().length;
    const pattern = written.trim();
    from += written.length + 1;
    if (theme.templateNames().some((one) => names(pattern, one))) continue;
    const near = pattern.endsWith('*') ? null : nearestOf(pattern, theme.templateNames());
    const span = { from: begins, to: begins + Math.max(1, pattern.length) };
    const what = pattern.endsWith('*') ? `There is no piece in “${pattern}”` : `There is no piece “${pattern}”`;
    const found = problem('shelf', source, span, { text: what + (near ? `; did you mean “${near.name}”?` : '') });
    const fix = fixOf(near, span);
    problems.push(fix ? { ...found, fix } : found);
  }
  return problems;
}

function ofPlaceables(name: string, { placeables }: Template, shelves: () => ReadonlyMap<string, unknown>): Problem[] {
  return placeables.flatMap((one, at) => {
    const say = (text: string) => problem('shelf', one.source, one, { text });
    if (!name.startsWith('pieces/')) return [say('<placeable> offers pieces: a page or layout is not placed')];
    const before = placeables.slice(0, at).some(({ source }) => source === one.source);
    const found = before ? [say('<placeable> stands here twice')] : [];
    if (!one.label?.trim()) found.push(say('<placeable> needs a label: what it is called by those who place it'));
    for (const shelf of one.shelves) {
      if (shelves().has(shelf)) continue;
      const near = nearestOf(shelf, shelves().keys());
      found.push(say(`No template has a shelf “${shelf}”${near ? `; did you mean “${near.name}”?` : ''}`));
    }
    return found;
  });
}
