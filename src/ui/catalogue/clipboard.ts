/** A block of cells as table programs put it on the clipboard: cells between tabs, rows between line breaks, quoted where either stands in one. */
export async function readBlock(text: string): Promise<string[][]> {
  const { parse } = await import('csv-parse/browser/esm/sync');
  const rows = parse(text, {
    delimiter: '\t',
    relax_quotes: true,
    relax_column_count: true,
    skip_empty_lines: false,
  }) as string[][];
  return rows.length ? rows : [['']];
}
