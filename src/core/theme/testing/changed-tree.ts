import { parseTemplate, rawElements, type ElementNode, type Template, type TemplateNode } from '@/core/language';

/** For tests: later versions of a template, made by changes at random, with what became of each of its elements. */

/** An element that can be changed, or a text as it is written. */
type Part = string | Branch;
interface Branch {
  /** The element of the template as it was; null: the change put it there. */
  was: ElementNode | null;
  /** Of one that a change put there as a copy: the element that it was copied from. */
  of: ElementNode | null;
  name: string;
  /** From after the name to the end of the start tag. */
  tag: string;
  inner: Part[];
  end: string;
}

const branchesOf = (nodes: readonly TemplateNode[]): Part[] =>
  nodes.map((node) => {
    const { source } = node;
    if (node.type !== 'element') return source.slice(node.from, node.to);
    return {
      ...{ was: node, of: null, name: node.name, tag: source.slice(node.nameTo, node.openTo) },
      ...{ inner: branchesOf(node.children), end: source.slice(node.closeFrom, node.to) },
    };
  });

const written = (parts: readonly Part[]): string =>
  parts
    .map((part) =>
      typeof part === 'string'
        ? part
        : `<${part.name}${part.tag}${written(part.inner)}${part.end && `</${part.name}>`}`,
    )
    .join('');

const all = (parts: readonly Part[]): Branch[] =>
  parts.flatMap((part) => (typeof part === 'string' ? [] : [part, ...all(part.inner)]));

/** The list that holds a branch. */
function listOf(root: Part[], branch: Branch): Part[] {
  if (root.includes(branch)) return root;
  for (const one of all(root)) if (one.inner.includes(branch)) return one.inner;
  throw new Error('The branch is not in the tree');
}

/** Numbers at random, one after another. */
export type Draw = (below: number) => number;

const canHold = ({ end, name }: Branch): boolean => end !== '' && !rawElements.has(name.toLowerCase());

const names: Record<string, string> = {
  ...{ div: 'section', section: 'div', p: 'div', span: 'b', b: 'strong', strong: 'b', h2: 'h3', h3: 'h2' },
  ...{ ul: 'ol', ol: 'ul', article: 'section', nav: 'div', header: 'div', footer: 'div', em: 'i', small: 'span' },
};

/** A copy that the change put there; `apart`: with other words or another class, as a developer would make one like it. */
function copy(branch: Branch, apart: boolean): Branch {
  const inner = branch.inner.map((part) =>
    typeof part !== 'string' ? copy(part, apart) : apart ? part.replace(/[\p{L}]{3,}/gu, (word) => `${word}2`) : part,
  );
  const tag =
    apart && !all([branch]).some((one) => one.inner.some((part) => typeof part === 'string' && /\p{L}/u.test(part)))
      ? branch.tag.replace(/=(["'])(\w+)/, '=$1other-$2')
      : branch.tag;
  return {
    ...branch,
    was: null,
    of: branch.was ?? branch.of,
    tag: tag.replace(/\sdo:mark="[^"]*"|\sid="[^"]*"/g, ''),
    inner,
  };
}

const kinds = [
  'move',
  'move',
  'wrap',
  'rename',
  'rename',
  'class',
  'mark',
  'insert',
  'insert',
  'like',
  'twin',
  'delete',
  'unwrap',
] as const;

/** Makes one change; false where this one cannot be made here. */
function change(root: Part[], draw: Draw): boolean {
  const branches = all(root);
  const branch = branches[draw(branches.length)];
  if (!branch) return false;
  const list = listOf(root, branch);
  const at = list.indexOf(branch);
  const fresh = (name: string, tag: string, inner: Part[]): Branch => ({
    was: null,
    of: null,
    name,
    tag,
    inner,
    end: '>',
  });
  switch (kinds[draw(kinds.length)]) {
    case 'move': {
      list.splice(at, 1);
      const places = [
        root,
        ...all(root)
          .filter(canHold)
          .map(({ inner }) => inner),
      ];
      const place = places[draw(places.length)] as Part[];
      place.splice(draw(place.length + 1), 0, branch);
      return true;
    }
    case 'wrap': {
      const count = 1 + draw(Math.min(3, list.length - at));
      list.splice(at, count, fresh('div', ` class="wrap-${draw(9)}">`, list.slice(at, at + count)));
      return true;
    }
    case 'rename': {
      const name = names[branch.name];
      if (!name || !branch.end) return false;
      branch.name = name;
      return true;
    }
    case 'class':
      if (!/\sclass="[^"{]+"/.test(branch.tag)) return false;
      branch.tag = branch.tag.replace(/(\sclass=")([^"]+)"/, `$1renamed-${draw(99)}"`);
      return true;
    case 'mark':
      if (!/\sdo:mark="/.test(branch.tag)) return false;
      branch.tag = branch.tag.replace(/(\sdo:mark=")([^"]+)"/, `$1$2-${draw(99)}"`);
      return true;
    case 'insert': {
      const name = ['span', 'p', 'div', branch.name][draw(4)] as string;
      if (!canHold({ ...branch, name })) return false;
      const tag = draw(2) ? '>' : ` class="new-${draw(99)}">`;
      list.splice(at + draw(2), 0, fresh(name, tag, draw(3) ? [`New ${draw(99)}`] : []));
      return true;
    }
    case 'like':
      list.splice(at + draw(2), 0, copy(branch, true));
      return true;
    case 'twin':
      list.splice(at + draw(2), 0, copy(branch, false));
      return true;
    case 'delete':
      list.splice(at, 1);
      return true;
    default:
      if (!branch.inner.length || branch.was?.own) return false;
      list.splice(at, 1, ...branch.inner);
      return true;
  }
}

export interface Changed {
  text: string;
  nodes: readonly TemplateNode[];
  /** What an element of the template became; null: it was removed. */
  became: (element: ElementNode) => ElementNode | null;
  /** Copies of an element that the change put there. */
  copies: (element: ElementNode) => ElementNode[];
}

/** All elements of a tree, in the order of the file. */
export const elementsOf = (nodes: readonly TemplateNode[]): ElementNode[] =>
  nodes.flatMap((node) => (node.type === 'element' ? [node, ...elementsOf(node.children)] : []));

/** A later version of a template, by so many changes; null where its tags no longer nest. */
export function changed(template: Template, changes: number, draw: Draw): Changed | null {
  const root = branchesOf(template.children);
  for (let made = 0, tries = 0; made < changes && tries < 50; tries++) if (change(root, draw)) made++;
  const text = written(root);
  const nodes = parseTemplate(template.source.file, text).children;
  const now = elementsOf(nodes);
  const branches = all(root);
  if (now.length !== branches.length || now.some(({ name }, place) => name !== branches[place]?.name)) return null;
  const at = (place: number) => now[place] ?? null;
  return {
    ...{ text, nodes },
    became: (element) => at(branches.findIndex(({ was }) => was === element)),
    copies: (element) => now.filter((_, place) => branches[place]?.of === element),
  };
}
