import type { Expression } from '../1-parse/expression';
import type { ElementNode } from '../1-parse/nodes';
import type { Source, Span } from '../1-parse/source';

export type SiteKind = 'element' | 'value' | 'condition' | 'loop' | 'draw' | 'gap' | 'fill' | 'shelf';

/** A place of a template that a traced render reports: worked out once, when the template is compiled. */
export interface Site extends Span {
  kind: SiteKind;
  source: Source;
  /** What is printed, asked or gone through. */
  expression: Expression | null;
  /** Of a condition: the parts of which one decides. */
  parts: Expression[];
  /** The element it is, or whose condition, loop or contents it is; null for a value. */
  element: ElementNode | null;
  /** Of a value that is all its element holds: the element's site. */
  inside: number | null;
  /** Of a draw: the inputs that are given as one expression. */
  inputs?: ReadonlyMap<string, Expression>;
}

/** Attribute of every element of a traced page: its frame and site, `data-last-at="12.3"`. */
export const markAttribute = 'data-last-at';

/** A page without its marks: byte for byte the live page. */
export function withoutMarks(html: string): string {
  return html.replace(marks, '');
}

/** The marks of a piece that was fetched by itself, told apart from its page's by the number of its view: `7~12.3`. */
export function marksOfView(html: string, view: string): string {
  return html.replace(/( data-last-at="|<!--last )(?=\d+\.\d+)/g, `$1${view}~`);
}

const marks =
  / data-last-at="\d+\.\d+"|<!--last \d+\.\d+-->|<!--\/last-->|<span data-last-notice="\d+\.\d+">[^<]*<\/span>/g;
