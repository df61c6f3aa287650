import { voidElements } from '../1-parse/names';

const set = (names: string) => new Set(names.split(/\s+/).filter(Boolean));

/** Elements whose start tag closes an open paragraph (HTML Standard, 13.2.6.4.7, “in body”), lists' items apart. */
const blocks =
  set(`address article aside blockquote details dialog div dl fieldset figcaption figure footer form header hgroup hr main
  menu nav ol p pre search section summary ul h1 h2 h3 h4 h5 h6`);

/** Elements that a browser leaves where they are written, whatever stands around them. */
const anywhere =
  set(`a abbr audio b bdi bdo br button cite code data del dfn em i iframe img input ins kbd label legend mark meter output picture progress q s
  samp script small source span strong style sub sup textarea time track u var video wbr`);

/** Drawings' parts that hold nothing of HTML. */
const drawn = set(
  'svg g path rect circle ellipse line polyline polygon use defs symbol text tspan stop lineargradient radialgradient clippath mask',
);

const heading = /^h[1-6]$/;

/**
 * Watches markup as it is written out, and knows of most that no browser rearranges it: then nobody need parse it. It knows only elements of a body whose
 * rules are simple; of all others, and of paragraphs, links, buttons and forms that meet one of their like, it says that it does not know.
 */
export class PlainMarkup {
  #sure = true;
  readonly #open: string[] = [];
  readonly #counts = new Map<string, number>();

  /** Whether nothing is rearranged, for sure. */
  get isSure(): boolean {
    return this.#sure;
  }

  /** An element begins; `ends`: it has an end tag of its own. */
  open(name: string, space: string, ends: boolean): void {
    if (!this.#sure) return;
    const parent = this.#open[this.#open.length - 1] ?? '';
    this.#sure = space === 'html' ? this.#fits(name, parent, ends) : space === 'svg' && this.#fitsDrawing(name, parent);
    if (!ends) return;
    this.#open.push(name);
    this.#counts.set(name, this.#within(name) + 1);
  }

  close(): void {
    const name = this.#open.pop();
    if (name !== undefined) this.#counts.set(name, this.#within(name) - 1);
  }

  #within(name: string): number {
    return this.#counts.get(name) ?? 0;
  }

  #fits(name: string, parent: string, ends: boolean): boolean {
    if (this.#within('svg') || ends === voidElements.has(name)) return false;
    if (this.#within('select'))
      return /^(?:option|optgroup)$/.test(name) && /^(?:select|optgroup)$/.test(parent) && name !== parent;
    if (name === 'select') return true;
    if (name === 'li') return /^(?:ul|ol|menu)$/.test(parent) && !this.#within('p');
    if (name === 'dt' || name === 'dd') return parent === 'dl' && !this.#within('p');
    if (blocks.has(name))
      return (
        !this.#within('p') && !(heading.test(name) && heading.test(parent)) && !(name === 'form' && this.#within(name))
      );
    // The first of two that may not stand in one another is closed by the second.
    if (name === 'a' || name === 'button') return !this.#within(name);
    return anywhere.has(name);
  }

  #fitsDrawing(name: string, parent: string): boolean {
    const key = name.toLowerCase();
    return drawn.has(key) && (key === 'svg' ? !this.#within('svg') : drawn.has(parent.toLowerCase()));
  }
}
