import type { Expression } from '../1-parse/expression';
import type { Attribute, ElementNode } from '../1-parse/nodes';
import { attributePlace, type AttributePlace } from '../2-check/places';
import { stylePlace } from '../values/style';
import { quote, type ExpressionWriter } from './expressions';
import type { Output, Tag } from './output';

/** Writes the attributes of start tags, each as its place asks for. */
export class AttributeWriter {
  readonly #output: Output;
  readonly #expressions: ExpressionWriter;

  constructor(output: Output, expressions: ExpressionWriter) {
    this.#output = output;
    this.#expressions = expressions;
  }

  /** Writes the attributes of an element that is printed. */
  write(element: ElementNode): void {
    const refreshes = element.attributes.some((attribute) => attribute.name === 'http-equiv');
    let tag: Tag | null = null;
    for (const attribute of element.attributes) {
      const { parts } = attribute;
      const place = parts ? attributePlace(element.name, attribute.name, refreshes) : null;
      if (attribute.name === 'do:attributes' && element.directives.attributes) {
        const written = element.attributes
          .filter((one) => !one.name.startsWith('do:'))
          .map((one) => one.name.toLowerCase());
        const expression = this.#expressions.value(element.directives.attributes);
        this.#output.printCode(`atr(${expression}, ${quote(element.name)}, ${JSON.stringify(written)}, rt)`);
        tag = null;
      } else if (attribute.name.startsWith('do:')) continue;
      else if (!parts) this.#output.print(element.source.slice(attribute.leadFrom, attribute.to));
      else if (parts.length === 1 && place !== null && quickPlaces.has(place)) {
        tag = this.#quick(element, attribute, parts[0] as Expression, place, tag);
      } else {
        this.#attribute(element, attribute, parts, refreshes);
        tag = null;
      }
    }
  }

  /**
   * An attribute that is one value. Where all such values of a tag are texts or numbers, as nearly always, the tag is written
   * in one go; else each attribute looks whether it is there at all.
   */
  #quick(element: ElementNode, attribute: Attribute, value: Expression, place: AttributePlace, open: Tag | null): Tag {
    const { source } = element;
    if (open) this.#output.continueTag();
    const tag = open ?? this.#output.beginTag();
    const name = source.slice(attribute.from, attribute.from + attribute.name.length);
    const lead = source.slice(attribute.leadFrom, attribute.from);
    const sign = attribute.quote || '"';
    const start = quote(`${lead}${name}=${sign}`);
    const bare = quote(lead + name);
    const variable = this.#expressions.temporary();
    tag.values.push([variable, this.#expressions.value(value)]);
    if (place === 'address' || place === 'loading') {
      const loads = place === 'loading';
      tag.quick.push(start, `ad(${variable}, ${loads}, rt)`, quote(sign));
      tag.general.push(`adr(${variable}, ${start}, ${bare}, ${quote(sign)}, ${loads}, rt)`);
    } else {
      const kind = place === 'words' ? 1 : place === 'alt' ? 2 : 0;
      tag.quick.push(start, `s(${variable}, rt)`, quote(sign));
      tag.general.push(`a1(${variable}, ${start}, ${bare}, ${quote(sign)}, ${kind}, rt)`);
    }
    return tag;
  }

  #attribute(element: ElementNode, attribute: Attribute, parts: (string | Expression)[], refreshes: boolean): void {
    const { source } = element;
    const name = source.slice(attribute.from, attribute.from + attribute.name.length);
    const lead = source.slice(attribute.leadFrom, attribute.from);
    const sign = attribute.quote || '"';
    const whole = parts.length === 1 ? (parts[0] as Expression) : null;
    const place = attributePlace(element.name, attribute.name, refreshes);
    // Places that take no value are errors beforehand; should one be rendered all the same, the attribute is left out.
    if (place === 'script' || place === 'fixed') return;
    const start = quote(`${lead}${name}=${sign}`);
    const value = (expression: Expression) => this.#expressions.value(expression);
    const pieces = () =>
      `[${parts.map((part) => (typeof part === 'string' ? quote(part) : `[${value(part)}]`)).join(', ')}]`;
    const around = (code: string) => {
      this.#output.print(`${lead}${name}=${sign}`);
      this.#output.printCode(code);
      this.#output.print(sign);
    };
    if (place === 'class' && whole?.kind === 'list' && plainClass(whole.items[0])) {
      this.#classes(whole.items, `${lead}${name}=${sign}`, sign);
    } else if (place === 'class') {
      this.#output.printCode(`cls(${pieces()}, ${start}, ${quote(sign)}, rt)`);
    } else if (place === 'style') around(`css(${pieces()}, ${simpleStyle(parts)}, rt)`);
    else if (place === 'address' || place === 'loading') {
      const loads = place === 'loading';
      around(`ads(${pieces()}, ${loads}, rt)`);
    } else if (place === 'candidates') this.#output.printCode(`sst(${pieces()}, ${start}, ${quote(sign)}, rt)`);
    else {
      this.#output.print(`${lead}${name}=${sign}`);
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
function simpleStyle(parts: (string | Expression)[]): boolean {
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
