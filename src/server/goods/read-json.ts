import { findNodeAtLocation, parseTree, type ParseError } from 'jsonc-parser';
import { jsonErrorInWords } from '@/core/language';

/** A path into JSON: names and places. */
type Path = (string | number)[];

/** JSON that was read, with where its parts stand in the text. */
export interface ReadJson {
  value: unknown;
  /** Line of what stands at a path, or of the nearest around it that there is; with the path as text. */
  at(path: Path): { line: number; column: string };
}

/** Tells line and column of offsets in a text, both from 1. */
function placesIn(text: string): (offset: number) => { line: number; column: number } {
  const starts = [0];
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) starts.push(at + 1);
  return (offset) => {
    let [from, to] = [0, starts.length];
    while (to - from > 1) {
      const middle = (from + to) >> 1;
      if ((starts[middle] ?? 0) <= offset) from = middle;
      else to = middle;
    }
    return { line: from + 1, column: offset - (starts[from] ?? 0) + 1 };
  };
}

/** Reads JSON; `wrong` has what is wrong with it, and where. */
export function readJson(text: string): ReadJson | { wrong: { line: number; column: string; message: string } } {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch {
    const errors: ParseError[] = [];
    parseTree(text, errors);
    const [first] = errors;
    const { line, column } = placesIn(text)(first?.offset ?? 0);
    const said = first ? jsonErrorInWords(first, text) : 'it cannot be read';
    return { wrong: { line, column: String(column), message: `The file is not valid JSON: ${said}` } };
  }
  let known: { tree: ReturnType<typeof parseTree>; place: ReturnType<typeof placesIn> } | null = null;
  return {
    value,
    at(path) {
      const { tree, place } = (known ??= { tree: parseTree(text), place: placesIn(text) });
      for (let length = path.length; length > 0; length--) {
        const node = tree && findNodeAtLocation(tree, path.slice(0, length));
        if (node) return { line: place(node.offset).line, column: path.map(String).join('.') };
      }
      return { line: 1, column: path.map(String).join('.') };
    },
  };
}
