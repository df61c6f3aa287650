import type { Problem } from '../problems';
import type { Expression } from './expression';
import type { Source, Span } from './source';

/** Bytes printed as they stand: text, HTML comments, doctypes, the inside of scripts. `text` lacks the lines that own tags took. */
export interface TextNode extends Span {
  type: 'text';
  source: Source;
  text: string;
  /** Only white space and comments of HTML: may stand between the elements of a chain of conditions. */
  blank: boolean;
  /**
   * Offsets of each `<` and `&` that what comes next on the page could complete to a tag or an entity. Each is an error, and is
   * printed as `&lt;` or `&amp;`.
   */
  loose: readonly number[];
}

/** `{expression}` in text. */
export interface ValueNode extends Span {
  type: 'value';
  source: Source;
  expression: Expression;
}

/** `<!--: … :-->`: never printed. */
export interface CommentNode extends Span {
  type: 'comment';
  source: Source;
}

export interface Attribute extends Span {
  /** In lower case in HTML, as written elsewhere. */
  name: string;
  /** Where the white space before it begins: an attribute that is dropped takes that along. */
  leadFrom: number;
  /** null: no value (`<input disabled>`). */
  value: Span | null;
  quote: '"' | "'" | '';
  /** The value cut at its braces; null when it holds none, and is printed as written. */
  parts: (string | Expression)[] | null;
  /** The file it is written in, where an amendment gave it to an element of another file. */
  source?: Source;
  /** Of one that an amendment gives under a condition: the condition, and the attribute that stands there otherwise. */
  given?: { when: Expression; otherwise: Attribute | null };
  /** Of a class: what amendments add to it. */
  added?: Attribute[];
}

/** The file that an attribute of an element is written in. */
export const sourceOf = (element: ElementNode, attribute: Attribute): Source => attribute.source ?? element.source;

/** The attributes of an element, with those that amendments add to one or put in place of one. */
export function* attributesOf(element: ElementNode): Generator<Attribute> {
  const stack = [...element.attributes].reverse();
  for (let one = stack.pop(); one; one = stack.pop()) {
    yield one;
    if (one.given?.otherwise) stack.push(one.given.otherwise);
    stack.push(...(one.added ?? []));
  }
}

export interface Let extends Span {
  name: string;
  value: Expression;
}

export interface Directives {
  gate: { kind: 'or-when'; test: Expression } | { kind: 'otherwise' } | null;
  each: { item: string; at: string | null; list: Expression } | null;
  lets: Let[];
  when: Expression | null;
  wrapWhen: Expression | null;
  attributes: Expression | null;
  json: Expression | null;
  once: boolean;
  asWritten: boolean;
  mark: string | null;
}

export type Space = 'html' | 'svg' | 'math';

export interface ElementNode extends Span {
  type: 'element';
  source: Source;
  name: string;
  space: Space;
  /** One of the language's own: its tags are never printed. */
  own: boolean;
  attributes: Attribute[];
  directives: Directives;
  /** End of `<name`. */
  nameTo: number;
  /** End of the start tag. */
  openTo: number;
  /** White space (and `/`) between the last attribute and `>`. */
  tailFrom: number;
  /** Where the end tag begins; equal to `to` when there is none. */
  closeFrom: number;
  /** Without an end tag by its kind, or closed by `/>`. */
  childless: boolean;
  /** Its start tag has no `>`: one is printed. */
  unfinished: boolean;
  /** Its end tag is missing, or holds more than a name: a plain one is printed. */
  plainEnd: boolean;
  /** Printed as written, and its tags do not nest: its contents are printed as text. */
  unsound: boolean;
  children: TemplateNode[];
  /** Number of the chain of conditions (when, or-when, otherwise) it is part of, as the file was written; else -1. */
  chain: number;
  /** Chains that begin among the children: their outcome is forgotten each time the children begin. */
  chains: number[];
}

export type TemplateNode = TextNode | ValueNode | CommentNode | ElementNode;

/** An input that a template declares. */
export interface Take extends Span {
  /** The file it is declared in: an amendment may add inputs. */
  source: Source;
  name: string;
  type: string;
  required: boolean;
  /** As written; null when none is. */
  default: string | null;
  label: string | null;
  help: string | null;
  options: string[];
  served: boolean;
}

/** A file that was read: its tree, what it takes, and what was wrong with it. The tree is whole even then. */
export interface Template {
  source: Source;
  children: TemplateNode[];
  chains: number[];
  chainCount: number;
  takes: Take[];
  problems: Problem[];
  /** Of a template that was amended: what found no place in it. Never printed, but held to the same rules. */
  unplaced?: TemplateNode[];
}
