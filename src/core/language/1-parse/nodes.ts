import type { Problem } from '../problems';
import type { Expression } from './expression';
import type { Source, Span } from './source';

/** What may still be written: a node, or a part of one, before it is put into a tree. */
export type Writable<T> = { -readonly [K in keyof T]: T[K] };

/** Bytes printed as they stand: text, HTML comments, doctypes, the inside of scripts. `text` lacks the lines that own tags took. */
export interface TextNode extends Span {
  readonly type: 'text';
  readonly source: Source;
  readonly text: string;
  /** Only white space and comments of HTML: may stand between the elements of a chain of conditions. */
  readonly blank: boolean;
  /**
   * Offsets of each `<` and `&` that what comes next on the page could complete to a tag or an entity. Each is an error, and is
   * printed as `&lt;` or `&amp;`.
   */
  readonly loose: readonly number[];
}

/** `{expression}` in text. */
export interface ValueNode extends Span {
  readonly type: 'value';
  readonly source: Source;
  readonly expression: Expression;
}

/** `<!--: … :-->`: never printed. */
export interface CommentNode extends Span {
  readonly type: 'comment';
  readonly source: Source;
}

export interface Attribute extends Span {
  /** In lower case in HTML, as written elsewhere. */
  readonly name: string;
  /** Where the white space before it begins: an attribute that is dropped takes that along. */
  readonly leadFrom: number;
  /** null: no value (`<input disabled>`). */
  readonly value: Span | null;
  readonly quote: '"' | "'" | '';
  /** The value cut at its braces; null when it holds none, and is printed as written. */
  readonly parts: readonly (string | Expression)[] | null;
  /** The file it is written in, where an amendment gave it to an element of another file. */
  readonly source?: Source;
  /** Of one that an amendment gives under a condition: the condition, and the attribute that stands there otherwise. */
  readonly given?: { when: Expression; otherwise: Attribute | null };
  /** Of a class: what amendments add to it. */
  readonly added?: readonly Attribute[];
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
  readonly name: string;
  readonly value: Expression;
}

export interface Directives {
  readonly gate: { kind: 'or-when'; test: Expression } | { kind: 'otherwise' } | null;
  readonly each: { item: string; at: string | null; list: Expression } | null;
  readonly lets: readonly Let[];
  readonly when: Expression | null;
  readonly wrapWhen: Expression | null;
  readonly attributes: Expression | null;
  readonly json: Expression | null;
  readonly once: boolean;
  readonly asWritten: boolean;
  readonly mark: string | null;
}

export type Space = 'html' | 'svg' | 'math';

export interface ElementNode extends Span {
  readonly type: 'element';
  readonly source: Source;
  readonly name: string;
  readonly space: Space;
  /** One of the language's own: its tags are never printed. */
  readonly own: boolean;
  readonly attributes: readonly Attribute[];
  readonly directives: Directives;
  /** End of `<name`. */
  readonly nameTo: number;
  /** End of the start tag. */
  readonly openTo: number;
  /** White space (and `/`) between the last attribute and `>`. */
  readonly tailFrom: number;
  /** Where the end tag begins; equal to `to` when there is none. */
  readonly closeFrom: number;
  /** Without an end tag by its kind, or closed by `/>`. */
  readonly childless: boolean;
  /** Its start tag has no `>`: one is printed. */
  readonly unfinished: boolean;
  /** Its end tag is missing, or holds more than a name: a plain one is printed. */
  readonly plainEnd: boolean;
  /** Printed as written, and its tags do not nest: its contents are printed as text. */
  readonly unsound: boolean;
  readonly children: readonly TemplateNode[];
  /** Number of the chain of conditions (when, or-when, otherwise) it is part of, as the file was written; else -1. */
  readonly chain: number;
  /** Chains that begin among the children: their outcome is forgotten each time the children begin. */
  readonly chains: readonly number[];
}

export type TemplateNode = TextNode | ValueNode | CommentNode | ElementNode;

/** An input that a template declares. */
export interface Take extends Span {
  /** The file it is declared in: an amendment may add inputs. */
  readonly source: Source;
  readonly name: string;
  readonly type: string;
  readonly required: boolean;
  /** As written; null when none is. */
  readonly default: string | null;
  readonly label: string | null;
  readonly help: string | null;
  readonly options: readonly string[];
  /** Of a number: its bounds and unit. */
  readonly least: number | null;
  readonly most: number | null;
  readonly unit: string | null;
  readonly served: boolean;
}

/** How a piece is offered to staff: what they call it, and the shelves that it is meant for (none: any). */
export interface Placeable extends Span {
  /** The file it is declared in: an amendment may offer a piece, or call it otherwise. */
  readonly source: Source;
  readonly label: string | null;
  readonly help: string | null;
  readonly shelves: readonly string[];
}

/** A file that was read: its tree, what it takes, and what was wrong with it. The tree is whole even then. */
export interface Template {
  source: Source;
  children: readonly TemplateNode[];
  chains: readonly number[];
  chainCount: number;
  takes: readonly Take[];
  /** Declarations that it may be placed; the last one counts. */
  placeables: readonly Placeable[];
  problems: Problem[];
  /** Of a template that was amended: what found no place in it. Never printed, but held to the same rules. */
  unplaced?: readonly TemplateNode[];
}
