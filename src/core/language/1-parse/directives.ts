import { nearestOf } from '../nearest';
import { problem, rewrite, type Problem } from '../problems';
import { directiveElsewhere } from './elsewhere';
import { isName, readExpression, readWhole, type Expression } from './expression';
import { directiveNames, renamedDirectives } from './names';
import type { Attribute, Directives, Let, Writable } from './nodes';
import type { Source } from './source';

export const noDirectives: Directives = Object.freeze({
  gate: null,
  each: null,
  lets: [],
  when: null,
  wrapWhen: null,
  attributes: null,
  json: null,
  once: false,
  asWritten: false,
  mark: null,
}) as Directives;

/** Reads an element's `do:` attributes. */
export function readDirectives(source: Source, attributes: Attribute[], problems: Problem[]): Directives {
  if (!attributes.some((attribute) => attribute.name.startsWith('do:'))) return noDirectives;
  const directives: Writable<Directives> = { ...noDirectives, lets: [] };
  const seen = new Set<string>();
  for (const attribute of attributes) {
    if (!attribute.name.startsWith('do:')) continue;
    const name = renamedDirectives.get(attribute.name) ?? attribute.name;
    if (name !== attribute.name) {
      const reported = problem('renamed', source, attribute, { name: attribute.name, now: name });
      const span = { from: attribute.from, to: attribute.from + attribute.name.length };
      reported.fix = rewrite(`Write “${name}”`, span, name);
      problems.push(reported);
    }
    const say = (text: string) => problems.push(problem('directive', source, attribute, { text }));
    if (!directiveNames.has(name)) {
      const meant = directiveElsewhere(name);
      const near = meant ? { name: meant, certain: true } : nearestOf(name, directiveNames);
      const text = meant
        ? `“${name}” is not of this language: write “${meant}”`
        : `There is no directive “${name}”${near ? `; did you mean “${near.name}”?` : ''}`;
      const reported = problem('directive', source, attribute, { text });
      const span = { from: attribute.from, to: attribute.from + name.length };
      if (near?.certain) reported.fix = rewrite(`Write “${near.name}”`, span, near.name);
      problems.push(reported);
      continue;
    }
    if (seen.has(name)) say(`“${name}” stands here twice`);
    seen.add(name);
    const expression = (): Expression => {
      if (attribute.value && source.slice(attribute.value.from, attribute.value.to).trim()) {
        return readWhole(source, attribute.value.from, attribute.value.to, problems);
      }
      problems.push(problem('expression', source, attribute, { text: `“${name}” needs an expression` }));
      return { kind: 'bad', from: attribute.from, to: attribute.to };
    };
    if (name === 'do:when') directives.when = expression();
    else if (name === 'do:or-when') directives.gate = { kind: 'or-when', test: expression() };
    else if (name === 'do:otherwise') directives.gate ??= { kind: 'otherwise' };
    else if (name === 'do:wrap-when') directives.wrapWhen = expression();
    else if (name === 'do:attributes') directives.attributes = expression();
    else if (name === 'do:json') directives.json = expression();
    else if (name === 'do:once') directives.once = true;
    else if (name === 'do:as-written') directives.asWritten = true;
    else if (name === 'do:mark')
      directives.mark = attribute.value ? source.slice(attribute.value.from, attribute.value.to) : '';
    else if (name === 'do:each') directives.each = readEach(source, attribute, problems);
    else if (name === 'do:let') directives.lets = readLets(source, attribute, problems);
  }
  return directives;
}

function readEach(source: Source, attribute: Attribute, problems: Problem[]): Directives['each'] {
  const { from, to } = attribute.value ?? { from: attribute.to, to: attribute.to };
  const head = /^\s*([A-Za-z_]\w*)\s*(?:,\s*([A-Za-z_]\w*)\s*)?\sin(?=[\s(['"])/.exec(source.slice(from, to));
  const [whole, item, at] = head ?? [];
  if (!whole || !item || !isName(item) || (at && !isName(at))) {
    const text = 'do:each is written “name in list” or “name, position in list”';
    problems.push(problem('directive', source, attribute, { text }));
    return null;
  }
  return { item, at: at ?? null, list: readWhole(source, from + whole.length, to, problems) };
}

function readLets(source: Source, attribute: Attribute, problems: Problem[]): Let[] {
  const lets: Let[] = [];
  const { from, to } = attribute.value ?? { from: attribute.to, to: attribute.to };
  let at = from;
  while (at < to) {
    const head = /^\s*([A-Za-z_]\w*)\s*=(?!=)/.exec(source.slice(at, to));
    if (!head || !isName(head[1] as string)) {
      if (!source.slice(at, to).trim() && lets.length) break;
      const text = 'do:let is written “name = expression”, several with “;” between';
      problems.push(problem('directive', source, attribute, { text }));
      break;
    }
    const { expression, end } = readExpression(source, at + head[0].length, to, problems);
    if (!expression) break;
    lets.push({ name: head[1] as string, value: expression, from: at, to: end });
    if (end < to && source.text[end] !== ';') {
      problems.push(
        problem('expression', source, { from: end, to }, { text: 'A “;” is missing between two names of do:let' }),
      );
      break;
    }
    at = end + 1;
  }
  return lets;
}
