import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { extname, join } from 'node:path';
import { stringify } from 'csv-stringify/sync';
import type { DryRunRequest, LookAnswer } from '@/contract/goods';
import { bodyToFile, refuse } from '@/server/http';
import { dataFolder, type Shop } from '@/server/shop';
import { Staging } from '@/store';
import { lookAt, type ImportAsk } from './plan';
import { maxFileBytes } from './table-rows';

/** How long a file that came waits to be imported, in milliseconds. */
const waitMs = 86_400_000;

/** A file of goods that came, in a folder of its own with what was planned of it. */
export interface Upload {
  id: string;
  folder: string;
  file: string;
  staging: string;
  name: string;
}

const root = (shop: Shop): string => join(shop.jobs ? dataFolder() : tmpdir(), 'imports');

/** Takes a file in as it comes; files that nobody imported within a day are removed. */
export async function takeUpload(shop: Shop, name: string, request: Request): Promise<Upload> {
  const folders = root(shop);
  mkdirSync(folders, { recursive: true });
  for (const old of readdirSync(folders))
    if (Date.now() - statSync(join(folders, old)).mtimeMs > waitMs)
      rmSync(join(folders, old), { recursive: true, force: true });
  const id = randomBytes(8).toString('hex');
  const folder = join(folders, id);
  mkdirSync(folder);
  const file = join(folder, 'file');
  try {
    await bodyToFile(request, file, maxFileBytes);
    writeFileSync(join(folder, 'name'), name);
    return uploadOf(shop, id);
  } catch (error) {
    rmSync(folder, { recursive: true, force: true });
    throw error;
  }
}

/** A file that came before. */
export function uploadOf(shop: Shop, id: string): Upload {
  const folder = join(root(shop), id);
  if (!existsSync(join(folder, 'name'))) refuse(404, 'upload', 'This file is no longer here: choose it again.');
  return {
    id,
    folder,
    file: join(folder, 'file'),
    staging: join(folder, 'staging.sqlite'),
    name: readFileSync(join(folder, 'name'), 'utf8'),
  };
}

/** What is in a file, by its name. */
export const formatOf = (name: string): ImportAsk['format'] => (/\.json(?:ld)?$/i.test(extname(name)) ? 'json' : 'csv');

/** How an upload is to be taken. */
export const askOf = (
  { file, name }: Upload,
  { mode, columns = {}, encoding, delimiter, mark }: DryRunRequest,
  today: string,
): ImportAsk => ({
  file,
  format: formatOf(name),
  ...{ mode, columns, encoding, delimiter, mark, today },
});

/** Rows that are shown of a table before it is imported. */
const shownRows = 6;

/** How a file is read: its columns and first rows. */
export async function lookAtUpload(
  shop: Shop,
  upload: Upload,
  given: Pick<DryRunRequest, 'encoding' | 'delimiter'> = {},
): Promise<LookAnswer> {
  const ask = askOf(upload, { mode: 'merge', ...given }, '');
  const answer = { upload: upload.id, name: upload.name, bytes: statSync(upload.file).size };
  if (ask.format === 'json') return { ...answer, table: null };
  const { encoding, sure, delimiter, mark, columns, sample } = await lookAt(shop, ask);
  return { ...answer, table: { encoding, sure, delimiter, mark, columns, sample: sample.slice(0, shownRows) } };
}

/** Opens what a dry run staged; refused where none was made. */
export function stagingOf(upload: Upload): Staging {
  if (!existsSync(upload.staging)) refuse(409, 'dry-run', 'There was no dry run of this file yet.');
  return new Staging(upload.staging);
}

/** All that cannot be taken of a file, as a table. */
export function issuesTable(upload: Upload): string {
  const staging = stagingOf(upload);
  try {
    const rows = staging
      .issues()
      .map(({ line, column, value, message, severity }) => [line, column, value, severity, message]);
    return stringify([['line', 'column', 'value', 'severity', 'message'], ...rows], {
      record_delimiter: '\r\n',
      escape_formulas: true,
    });
  } finally {
    staging.close();
  }
}
