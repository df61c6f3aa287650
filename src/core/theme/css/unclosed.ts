/** Comments and quoted texts as spaces, so that the signs within them count for nothing. */
const blanked = (text: string): string =>
  text.replace(/\/\*[^]*?(?:\*\/|$)|"(?:\\.|[^"\\\n])*"|'(?:\\.|[^'\\\n])*'/g, (one) => one.replace(/[^\n]/g, ' '));

interface Block {
  /** Where its head begins, and its brace stands. */
  from: number;
  to: number;
  /** How far its line is indented. */
  indent: number;
}

const indentOf = (text: string, at: number): number => {
  const start = text.lastIndexOf('\n', at - 1) + 1;
  return /^[ \t]*/.exec(text.slice(start))?.[0].length ?? 0;
};

/** The block that a brace opens: its head is the line of it, with lines before that end in a comma. */
const opens = (text: string, at: number, after: number): Block => {
  let start = Math.max(after, text.lastIndexOf('\n', at - 1) + 1);
  while (start > after && /,\s*$/.test(text.slice(after, start)))
    start = Math.max(after, text.lastIndexOf('\n', start - 2) + 1);
  const from = start + (/^\s*/.exec(text.slice(start, at))?.[0].length ?? 0);
  return { from, to: at, indent: indentOf(text, from) };
};

/**
 * The block of a style sheet whose end is missing. Braces alone would name the outermost; how lines are indented tells which it is:
 * a `}` that stands further out than the innermost block belongs to one around it, and a rule that stands as far out as an open block comes
 * after it.
 */
export function unclosedBlock(source: string): { from: number; to: number } {
  const text = blanked(source);
  const open: Block[] = [];
  let after = 0;
  for (const { index, 0: sign } of text.matchAll(/[{};]/g)) {
    const alone = !text.slice(text.lastIndexOf('\n', index - 1) + 1, index).trim();
    const innermost = open[open.length - 1];
    if (sign === '{') {
      const block = opens(text, index, after);
      const onItsOwn = !text.slice(text.lastIndexOf('\n', block.from - 1) + 1, block.from).trim();
      if (
        innermost &&
        onItsOwn &&
        block.indent <= innermost.indent &&
        text.slice(innermost.to, block.from).includes('\n')
      )
        return innermost;
      open.push(block);
    } else if (sign === '}') {
      if (innermost && alone && indentOf(text, index) < innermost.indent) return innermost;
      open.pop();
    }
    after = index + 1;
  }
  return open[0] ?? { from: 0, to: 0 };
}
