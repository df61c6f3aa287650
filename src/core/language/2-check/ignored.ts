import { rawElements } from '../1-parse/names';
import type { Attribute, ElementNode } from '../1-parse/nodes';
import { nearestOf } from '../nearest';
import { rewrite } from '../problems';
import type { Report } from './infer';

const set = (names: string) => new Set(names.split(' ').filter(Boolean));

/** Attributes that the language's own elements take; a draw takes any, as inputs. */
const known: Record<string, ReadonlySet<string>> = {
  gap: set('name'),
  fill: set('gap'),
  shelf: set('name label help takes least most'),
  takes: set('name type label help default options required served least most unit'),
  placeable: set('label help shelves'),
  ask: set('name type label help options required least most'),
  group: set(''),
  amend: set('of'),
  before: set('mark at was'),
  after: set('mark at was'),
  prepend: set('mark at was'),
  append: set('mark at was'),
  replace: set('mark at was'),
  remove: set('mark at was'),
  move: set('mark at was before after into'),
  kept: set(''),
};

const all = set(
  'do:when do:or-when do:otherwise do:each do:let do:wrap-when do:attributes do:json do:once do:as-written do:mark',
);

/** Directives that the language's own elements pass over. */
const passedOver: Record<string, ReadonlySet<string>> = {
  gap: set('do:wrap-when do:attributes do:json do:as-written'),
  fill: set('do:each do:wrap-when do:attributes do:json do:once do:as-written do:mark'),
  shelf: set('do:wrap-when do:attributes do:json do:as-written'),
  ask: set('do:wrap-when do:attributes do:json do:as-written'),
  draw: set('do:wrap-when do:attributes do:json do:as-written'),
  group: set('do:wrap-when do:attributes do:json'),
  takes: all,
  placeable: all,
  kept: all,
};

/** Reports what an element is given and passes over: attributes and directives without effect, contents that are never printed. */
export function checkIgnored(element: ElementNode, report: Report): void {
  const { name, own, directives } = element;
  if (directives.mark?.trim() === '')
    report('ignored', opening(element), { text: 'do:mark has no name: no amendment can find this place' });
  if (own) {
    for (const attribute of element.attributes) checkAttribute(element, attribute, report);
    return;
  }
  const raw = rawElements.has(name.toLowerCase());
  if (directives.json && element.children.some((node) => node.type !== 'text' || /\S/.test(node.text)))
    report('ignored', opening(element), { text: `What stands in <${name}> is never printed: do:json fills it` });
  if (directives.wrapWhen && raw)
    report('ignored', opening(element), {
      text: `do:wrap-when has no effect on <${name}>: without its tags its contents would be seen. do:when removes it whole`,
    });
  if (directives.asWritten && directives.json)
    report('ignored', opening(element), { text: 'do:json has no effect beside do:as-written' });
}

function checkAttribute(element: ElementNode, attribute: Attribute, report: Report): void {
  const { name } = element;
  const span = { from: attribute.from, to: attribute.from + attribute.name.length };
  if (attribute.name.startsWith('do:')) {
    const renamed = attribute.name === 'do:literal' ? 'do:as-written' : attribute.name;
    if (passedOver[name]?.has(renamed))
      report('ignored', span, { text: `“${attribute.name}” has no effect on <${name}>` });
    return;
  }
  if (name === 'draw') {
    const written = element.source.slice(attribute.from, attribute.from + attribute.name.length);
    if (!/^[A-Za-z_][A-Za-z0-9_]*$/.test(written))
      report('ignored', span, { text: `“${written}” cannot name an input: letters, digits and _; it is passed over` });
    return;
  }
  const names = known[name];
  if (!names || names.has(attribute.name)) return;
  const near = nearestOf(attribute.name, names);
  const meant = near ? `; did you mean “${near.name}”?` : '';
  const fix = near?.certain ? rewrite(`Write “${near.name}”`, span, near.name) : undefined;
  report('ignored', span, { text: `<${name}> takes no “${attribute.name}”, and passes over it${meant}` }, fix);
}

const opening = (element: ElementNode) => ({ from: element.from, to: element.openTo });
