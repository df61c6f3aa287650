/** A stretch of a source text: offsets in UTF-16 units, `to` exclusive. */
export interface Span {
  from: number;
  to: number;
}

/** A place as people name it: line and column, both from 1. */
export interface Place {
  line: number;
  column: number;
}

/** One file's text, with the offsets of its lines worked out once, when first asked for. */
export class Source {
  #lines: number[] | null = null;

  constructor(
    /** Path in the theme, with its extension: `pieces/tile.html`. */
    readonly file: string,
    readonly text: string,
    /** Name of the layer that the file stands in; '' where there are no layers. */
    readonly layer = '',
  ) {}

  slice(from: number, to: number): string {
    return this.text.slice(from, to);
  }

  /** Line and column of an offset; an offset past the end counts as the end. */
  place(offset: number): Place {
    const starts = (this.#lines ??= lineStarts(this.text));
    let low = 0;
    let high = starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((starts[middle] as number) <= offset) low = middle;
      else high = middle - 1;
    }
    return { line: low + 1, column: Math.min(offset, this.text.length) - (starts[low] as number) + 1 };
  }
}

function lineStarts(text: string): number[] {
  const starts = [0];
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) starts.push(at + 1);
  return starts;
}
