import { quote } from './expressions';

/** A start tag with values: its code where all of them are texts or numbers, and for any other. */
export interface Tag {
  /** Variables, and what is put into them first. */
  values: [variable: string, code: string][];
  quick: string[];
  general: string[];
}

/**
 * The code of a template as it is written: statements, and between them what is printed, joined as long as nothing comes
 * between. `o` of the code is the page so far.
 */
export class Output {
  #code = '';
  #parts: (string | Tag)[] = [];
  #text = '';

  /** A statement. */
  line(code: string): void {
    this.#flush();
    this.#code += `${code}\n`;
  }

  /** Prints a text that is written in the template. */
  print(text: string): void {
    this.#text += text;
  }

  /** Prints what a piece of code gives: a text, and nothing but a text. */
  printCode(code: string): void {
    this.#endText();
    this.#parts.push(code);
  }

  /** Begins a start tag; the text before goes along, so that it is joined with the first attribute. */
  beginTag(): Tag {
    const tag: Tag = { values: [], quick: [], general: [] };
    if (this.#text) {
      tag.quick.push(quote(this.#text));
      tag.general.push(quote(this.#text));
      this.#text = '';
    }
    this.#parts.push(tag);
    return tag;
  }

  /** Goes on with a start tag: the text since goes into it. */
  continueTag(): void {
    this.#endText();
  }

  /** All that was written. */
  finish(): string {
    this.#flush();
    return this.#code;
  }

  /** What `write` writes, as the body of a function that gives it. */
  nested(write: () => void): string {
    const outer = [this.#code, this.#parts, this.#text] as const;
    [this.#code, this.#parts, this.#text] = ['', [], ''];
    write();
    const body = this.finish();
    [this.#code, this.#parts, this.#text] = outer;
    return `let o = '';\n${body}return o;`;
  }

  #endText(): void {
    const text = this.#text;
    this.#text = '';
    if (!text) return;
    const last = this.#parts[this.#parts.length - 1];
    if (last && typeof last === 'object') {
      last.quick.push(quote(text));
      last.general.push(quote(text));
    } else this.#parts.push(quote(text));
  }

  #flush(): void {
    this.#endText();
    if (!this.#parts.length) return;
    // One statement a run: the pieces are joined first, then put after the page.
    this.#code += `o += ${this.#parts.map(codeOf).join(' + ')};\n`;
    this.#parts = [];
  }
}

function codeOf(part: string | Tag): string {
  if (typeof part === 'string') return part;
  const { values, quick, general } = part;
  const set = values.map(([variable, code]) => `${variable} = ${code}`).join(', ');
  const plain = values.map(([variable]) => `(typeof ${variable} === 'string' || typeof ${variable} === 'number')`);
  return `((${set}, ${plain.join(' && ')}) ? ${joined(quick)} : ${joined(general)})`;
}

/** Pieces of code joined, literals that meet made one. */
function joined(parts: readonly string[]): string {
  const met: string[] = [];
  for (const part of parts) {
    const last = met[met.length - 1];
    if (last?.startsWith('"') && part.startsWith('"')) met[met.length - 1] = last.slice(0, -1) + part.slice(1);
    else met.push(part);
  }
  return met.join(' + ');
}
