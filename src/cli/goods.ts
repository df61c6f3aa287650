import { extname, resolve } from 'node:path';
import { type ExportFormat, exportTo, listCommand, readColumns, type ImportGiven } from '@/server/goods';
import { writePictures } from '@/server/pictures';
import { onShop, writing } from './on-shop';
import { said, type Say } from './said';

interface ImportOptions {
  dryRun?: boolean;
  replace?: boolean;
  partly?: boolean;
  pictures?: string;
  columns?: string;
  encoding?: NonNullable<ImportGiven['encoding']>;
  delimiter?: string;
  undo?: string;
  list?: boolean;
}

/** `last import`: exit status 0 when done, 1 when something cannot be taken or the data folder cannot be used, 2 for a call that says too little. */
export async function importGoods(
  file: string | undefined,
  options: ImportOptions,
  say: Say,
  complain: Say,
): Promise<number> {
  if (options.list) return onShop(complain, (shop) => listCommand(shop).forEach(say));
  if (options.undo !== undefined) {
    const change = Number(options.undo);
    if (Number.isInteger(change)) return writing('undoImport', { change }, say, complain);
    complain('--undo takes the number of a change: last import --list has them.');
    return 2;
  }
  if (file === undefined && options.pictures === undefined) {
    complain(
      'Name the file: last import goods.csv. With --list, what was imported; with --undo NUMBER, one of them is undone.',
    );
    return 2;
  }
  return said(complain, async () => {
    const { pictures, columns, delimiter } = options;
    const status = await writing(
      'import',
      {
        file: file === undefined ? null : resolve(file),
        pictures: pictures === undefined ? null : resolve(pictures),
        mode: options.replace ? 'replace' : 'merge',
        dry: options.dryRun ?? false,
        partly: options.partly ?? false,
        columns: columns === undefined ? {} : readColumns(columns),
        encoding: options.encoding ?? null,
        delimiter: delimiter === undefined ? null : delimiter === 'tab' ? '\t' : delimiter,
      },
      say,
      complain,
    );
    process.exitCode = status;
  }).then((status) => status || Number(process.exitCode ?? 0));
}

/** `last export`: exit status 0 when done, 1 when the file or the data folder cannot be used. */
export function exportGoods(
  file: string,
  options: { pictures?: string; format?: ExportFormat },
  say: Say,
  complain: Say,
): Promise<number> {
  const ending = extname(file).slice(1).toLowerCase();
  const format = options.format ?? (ending === 'csv' || ending === 'jsonld' ? ending : 'json');
  return onShop(complain, async (shop) => {
    const products = await exportTo(shop, resolve(file), format);
    const pictures = options.pictures === undefined ? 0 : writePictures(shop, resolve(options.pictures));
    const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;
    const both = options.pictures === undefined ? '' : ` and ${counted(pictures, 'picture')}`;
    say(`${counted(products, 'product')}${both} written to ${file}.`);
  });
}
