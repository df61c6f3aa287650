import { createReadStream, openSync, readSync, closeSync, statSync } from 'node:fs';
import { parse, CsvError } from 'csv-parse';
import { delimiterOf, encodingOf, type Encoding, type TableRow } from '@/core/exchange';
import { refuse } from '@/server/http';

/** Largest file that is taken, in bytes. */
export const maxFileBytes = 1_000_000_000;
/** The same for one of JSON, which is read as one text. */
export const maxJsonBytes = 400_000_000;
/** How much of a file is looked at to tell what it is, in bytes. */
const headBytes = 256_000;
/** Rows that are looked at to tell what columns are. */
const sampleRows = 200;

/** Signs that no text has. */
const binary = /[\x00-\x08\x0e-\x1a\ufffd]/;

/** How a text file is read. */
export interface TableFormat {
  encoding: Encoding;
  /** Whether the bytes leave no doubt about the encoding. */
  sure: boolean;
  delimiter: string;
}

/** A table file as it is first looked at. */
export interface TableHead extends TableFormat {
  headings: string[];
  sample: string[][];
}

/** Refuses a file that cannot be read, with a sentence that has its line. */
const unreadable = (message: string): never => refuse(422, 'file', message);

/** Refuses a file that is empty, or has more than so many bytes. */
export function checkSize(path: string, most = maxFileBytes): void {
  const { size } = statSync(path);
  if (!size) unreadable('The file is empty.');
  if (size > most)
    unreadable(
      `The file has ${(size / 1e9).toFixed(1)} GB: at most ${most / 1e9} GB are taken. Divide it into several.`,
    );
}

function firstBytes(path: string): Uint8Array {
  checkSize(path);
  const { size } = statSync(path);
  const bytes = Buffer.alloc(Math.min(size, headBytes));
  const file = openSync(path, 'r');
  readSync(file, bytes, 0, bytes.length, 0);
  closeSync(file);
  return bytes;
}

/** Looks at the beginning of a table file: how it is written, its headings, and some rows. `given` is what people say of it. */
export async function readHead(path: string, given: Partial<TableFormat> = {}): Promise<TableHead> {
  const bytes = firstBytes(path);
  const found = encodingOf(bytes);
  const encoding = given.encoding ?? found.encoding;
  const head = new TextDecoder(encoding).decode(bytes);
  if (binary.test(head)) return unreadable('This is not a text file: it holds bytes that no text has.');
  const delimiter = given.delimiter ?? delimiterOf(head);
  const format = { encoding, sure: given.encoding !== undefined || found.sure, delimiter };
  const sample: string[][] = [];
  let headings: string[] = [];
  for await (const { cells } of tableRows(path, format)) {
    if (!headings.length) headings = cells.map((cell) => cell.trim());
    else if (sample.push([...cells]) >= sampleRows) break;
  }
  if (headings.length < 2)
    return unreadable(
      `Only one column was found with “${delimiter === '\t' ? 'tab' : delimiter}” between cells: say what stands between the cells of this file.`,
    );
  return { ...format, headings, sample };
}

/** Every row of a table file (RFC 4180), the headings first, with the line that it begins on. */
export async function* tableRows(path: string, { encoding, delimiter }: TableFormat): AsyncGenerator<TableRow> {
  const parser = parse({
    bom: true,
    delimiter,
    info: true,
    relax_column_count: true,
    skip_empty_lines: true,
    // A quote inside a cell that does not begin with one is a quote: inches, for one.
    relax_quotes: true,
    max_record_size: 1_000_000,
  });
  const decoder = new TextDecoder(encoding, { fatal: encoding === 'utf-8' });
  const stream = createReadStream(path, { highWaterMark: 256_000 });
  let before = 1;
  void (async () => {
    try {
      for await (const chunk of stream) {
        const text = decoder.decode(chunk as Buffer, { stream: true });
        if (!parser.write(text)) await new Promise((resolve) => parser.once('drain', resolve));
      }
      const rest = decoder.decode();
      if (rest) parser.write(rest);
      parser.end();
    } catch (error) {
      parser.destroy(error as Error);
    }
  })();
  try {
    for await (const { record, info } of parser as AsyncIterable<{ record: string[]; info: { lines: number } }>) {
      // The parser says where a record ends; it begins after the one before.
      const { lines } = info;
      yield { line: Math.max(before, lines - record.join('').split('\n').length + 1), cells: record };
      before = lines + 1;
    }
  } catch (error) {
    if (error instanceof CsvError) {
      const line = before;
      if (error.code === 'CSV_QUOTE_NOT_CLOSED')
        return unreadable(
          `A quote that opens in or after line ${line} is not closed: the file cannot be read from there on.`,
        );
      if (error.code === 'CSV_MAX_RECORD_SIZE')
        return unreadable(
          `The row that begins at line ${line} is longer than 1 MB: perhaps a quote is left open there.`,
        );
      return unreadable(`Line ${line} cannot be read: ${error.message}`);
    }
    if ((error as NodeJS.ErrnoException).code === 'ERR_ENCODING_INVALID_ENCODED_DATA')
      return unreadable(
        `The file is not UTF-8 all through: something after line ${before} is written otherwise. Say how it is encoded, Windows-1252 for one.`,
      );
    throw error;
  } finally {
    stream.destroy();
    parser.destroy();
  }
}
