import type { Expression } from '../1-parse/expression';
import { decodeHTMLAttribute } from 'entities';
import { sourceOf, type Attribute, type ElementNode } from '../1-parse/nodes';
import { sealedBefore } from '../1-parse/loose';
import type { Analysis } from '../2-check/analysis';
import type { AttributePlace } from '../2-check/places';
import { stylePlace } from '../values/style';
import { quote, type ExpressionWriter } from './expressions';
import type { Output, Tag } from './output';

/** Writes the attributes of start tags, each as its place asks for. */
export class AttributeWriter {
  readonly #output: Output;
  readonly #expressions: ExpressionWriter;
  readonly #places: Analysis['places'];

  constructor(output: Output, expressions: ExpressionWriter, places: Analysis['places']) {
    this.#output = output;
    this.#expressions = expressions;
    this.#places = places;
  }

  /** Writes the attributes of an element that is printed. */
  write(element: ElementNode): void {
    let tag: Tag | null = null;
    for (const attribute of element.attributes) tag = this.#one(element, attribute, tag);
  }

  /** Writes one attribute; gives the start tag that the next may go on with. */
  #one(element: ElementNode, attribute: Attribute, tag: Tag | null): Tag | null {
    if (!attribute.given) return this.#always(element, attribute, tag);
    const { when, otherwise } = attribute.given;
    this.#output.line(`if (${this.#expressions.holds(when)}) {`);
    this.#always(element, attribute, null);
    this.#output.line('} else {');
    if (otherwise) this.#one(element, otherwise, null);
    this.#output.line('}');
    return null;
  }

  /** Writes an attribute that is given whatever holds, or where what it is given under does. */
  #always(element: ElementNode, attribute: Attribute, tag: Tag | null): Tag | null {
    if (attribute.name === 'do:attributes' && element.directives.attributes) {
      const written = element.attributes
        .filter((one) => !one.name.startsWith('do:'))
        .map((one) => one.name.toLowerCase());
      const expression = this.#expressions.value(element.directives.attributes);
      this.#output.printCode(`atr(${expression}, ${quote(element.name)}, ${JSON.stringify(written)}, rt)`);
      return null;
    }
    if (attribute.name.startsWith('do:')) return tag;
    const parts = attribute.added ? this.#withAdded(element, attribute) : attribute.parts;
    if (!parts) {
      this.#output.print(sourceOf(element, attribute).slice(attribute.leadFrom, attribute.to));
      return tag;
    }
    const place = this.#places.get(attribute) ?? 'plain';
    if (parts.length === 1 && quickPlaces.has(place))
      return this.#quick(element, attribute, parts[0] as Expression, place, tag);
    this.#attribute(element, attribute, parts, place);
    return null;
  }

  /** The parts of a class with what amendments add to it. */
  #withAdded(element: ElementNode, attribute: Attribute): readonly (string | Expression)[] {
    const partsOf = (one: Attribute): readonly (string | Expression)[] =>
      one.parts ?? (one.value ? [sourceOf(element, one).slice(one.value.from, one.value.to)] : []);
    const under = (part: string | Expression, test: Expression): Expression => {
      const { from, to } = test;
      const yes: Expression =
        typeof part === 'string' ? { kind: 'text', value: decodeHTMLAttribute(part), from, to } : part;
      return { kind: 'choice', test, yes, no: { kind: 'none', from, to }, from, to };
    };
    const all = [...partsOf(attribute)];
    for (const one of attribute.added ?? []) {
      const { given } = one;
      all.push(' ', ...partsOf(one).map((part) => (given ? under(part, given.when) : part)));
    }
    return all;
  }

  /** How an attribute is written: what stands before its value, its name alone, and its quote. */
  #spelling(element: ElementNode, attribute: Attribute): { start: string; bare: string; sign: string } {
    const source = sourceOf(element, attribute);
    const name = source.slice(attribute.from, attribute.from + attribute.name.length);
    const lead = source.slice(attribute.leadFrom, attribute.from);
    const sign = attribute.quote || '"';
    return { start: `${lead}${name}=${sign}`, bare: lead + name, sign };
  }

  /**
   * An attribute that is one value. Where all such values of a tag are texts or numbers, as nearly always, the tag is written
   * in one go; else each attribute checks whether it is there at all.
   */
  #quick(element: ElementNode, attribute: Attribute, value: Expression, place: AttributePlace, open: Tag | null): Tag {
    if (open) this.#output.continueTag();
    const tag = open ?? this.#output.beginTag();
    const { start, bare, sign } = this.#spelling(element, attribute);
    const variable = this.#expressions.temporary();
    tag.values.push([variable, this.#expressions.value(value)]);
    const around = [quote(start), quote(bare), quote(sign)].join(', ');
    if (place === 'address' || place === 'loading') {
      const loads = place === 'loading';
      tag.quick.push(quote(start), `ad(${variable}, ${loads}, rt)`, quote(sign));
      tag.general.push(`adr(${variable}, ${around}, ${loads}, rt)`);
    } else {
      const kind = place === 'words' ? 1 : place === 'alt' ? 2 : 0;
      tag.quick.push(quote(start), `s(${variable}, rt)`, quote(sign));
      tag.general.push(`a1(${variable}, ${around}, ${kind}, rt)`);
    }
    return tag;
  }

  #attribute(
    element: ElementNode,
    attribute: Attribute,
    given: readonly (string | Expression)[],
    place: AttributePlace,
  ): void {
    // Places that take no value are errors beforehand; should one be rendered all the same, the attribute is left out.
    if (place === 'script' || place === 'fixed') return;
    const parts = given.map((part, at) =>
      typeof part === 'string' && at + 1 < given.length ? sealedBefore(part) : part,
    );
    const { start, bare, sign } = this.#spelling(element, attribute);
    const whole = parts.length === 1 ? (parts[0] as Expression) : null;
    const value = (expression: Expression) => this.#expressions.value(expression);
    const pieces = () =>
      `[${parts.map((part) => (typeof part === 'string' ? quote(part) : `[${value(part)}]`)).join(', ')}]`;
    const around = (code: string) => {
      this.#output.print(start);
      this.#output.printCode(code);
      this.#output.print(sign);
    };
    if (place === 'class' && whole?.kind === 'list' && plainClass(whole.items[0])) {
      this.#classes(whole.items, start, sign);
    } else if (place === 'class') {
      this.#output.printCode(`cls(${pieces()}, ${quote(start)}, ${quote(sign)}, rt)`);
    } else if (place === 'style') around(`css(${pieces()}, ${simpleStyle(parts)}, rt)`);
    else if (place === 'boolean' && whole) {
      this.#output.printCode(`bo(${value(whole)}, ${quote(start)}, ${quote(bare)}, ${quote(sign)})`);
    } else if (place === 'address' || place === 'loading') {
      around(`ads(${pieces()}, ${place === 'loading'}, rt)`);
    } else if (place === 'candidates') this.#output.printCode(`sst(${pieces()}, ${quote(start)}, ${quote(sign)}, rt)`);
    else {
      this.#output.print(start);
      for (const part of parts) {
        if (typeof part === 'string') this.#output.print(part);
        else this.#output.printCode(`am(${value(part)}, ${place === 'words' ? 1 : 0}, rt)`);
      }
      this.#output.print(sign);
    }
  }

  /** A list of classes of which the first is written out: the attribute is always there, and most of it is known beforehand. */
  #classes(items: Expression[], start: string, end: string): void {
    this.#output.print(start);
    items.forEach((item, at) => {
      const space = at ? ' ' : '';
      const name = plainClass(item);
      const [test, yes, no] =
        item.kind === 'and'
          ? [item.left, plainClass(item.right), '']
          : item.kind === 'choice'
            ? [item.test, plainClass(item.yes), item.no.kind === 'none' ? '' : plainClass(item.no)]
            : [null, null, null];
      if (name) this.#output.print(space + name);
      else if (test && yes && no !== null)
        this.#output.printCode(`(${this.#expressions.holds(test)} ? ${quote(` ${yes}`)} : ${quote(no && ` ${no}`)})`);
      else this.#output.printCode(`cl(${this.#expressions.value(item)}, rt)`);
    });
    this.#output.print(end);
  }
}

/** Places whose attribute is there as it is when its value is a text or a number. */
const quickPlaces: ReadonlySet<AttributePlace> = new Set(['plain', 'words', 'alt', 'address', 'loading']);

/** A class that is written out and needs neither escaping nor folding; null for any other expression. */
function plainClass(item: Expression | undefined): string | null {
  return item?.kind === 'text' && /^[\w-]+(?: [\w-]+)*$/.test(item.value) ? item.value : null;
}

/** Whether a style attribute is written so plainly that plain values can do nothing in it. */
function simpleStyle(parts: readonly (string | Expression)[]): boolean {
  let before = '';
  for (const part of parts) {
    if (typeof part !== 'string') {
      if (stylePlace(before) !== 'value') return false;
      before += '0';
    } else if (/[()"'\\&*]/.test(part)) return false;
    else before += part;
  }
  return true;
}
