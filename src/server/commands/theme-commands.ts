import { writeFileSync } from 'node:fs';
import { formatFor, isRecord, type Problem, printed, unmetered } from '@/core/language';
import { CatalogueFileError } from '@/server/catalogue';
import { problemLine, ThemeFolderError, ThemeFolders, traceTable } from './theme-folder';

type Say = (line: string) => void;

/** Opens the folders, or says why they cannot be and gives null. */
function open(folders: readonly string[], catalogue: string | null, complain: Say): ThemeFolders | null {
  try {
    return new ThemeFolders(folders, catalogue);
  } catch (error) {
    if (!(error instanceof ThemeFolderError || error instanceof CatalogueFileError)) throw error;
    complain(error.message);
    return null;
  }
}

const counted = (problems: readonly Problem[]): string => {
  const of = (severity: string) => problems.filter((one) => one.severity === severity).length;
  const word = (n: number, name: string) => `${n} ${name}${n === 1 ? '' : 's'}`;
  return [word(of('error'), 'error'), word(of('warning'), 'warning'), word(of('note'), 'note')].join(', ');
};

/**
 * `last check`: exit status 0 when nothing is wrong or only notes are, 1 when there is an error or a warning, 2 when the
 * folders cannot be read.
 */
export function checkCommand(
  folders: string[],
  options: { catalogue?: string; json?: boolean; fix?: boolean },
  say: Say,
  complain: Say,
): number {
  let opened = open(folders, options.catalogue ?? null, complain);
  if (!opened) return 2;
  let problems = opened.check();
  if (options.fix) {
    const fixed = opened.applyFixes(problems);
    for (const one of fixed) complain(`fixed: ${problemLine(one, folders.length > 1)}`);
    opened = open(folders, options.catalogue ?? null, complain);
    if (!opened) return 2;
    problems = opened.check();
  }
  if (options.json) say(JSON.stringify({ problems }, null, 2));
  else {
    for (const one of problems) say(problemLine(one, folders.length > 1));
    say(problems.length ? counted(problems) : `${opened.theme.names().length} templates: nothing wrong`);
  }
  return problems.some((one) => one.severity !== 'note') ? 1 : 0;
}

/** `last render`: the page on standard output, its problems on the other. Exit status 1 for a page that is not there or has an error. */
export function renderCommand(
  folders: string[],
  options: { catalogue: string; page: string; today?: string; try?: string; trace?: string; out?: string },
  say: (text: string) => void,
  complain: Say,
): number {
  const opened = open(folders, options.catalogue, complain);
  if (!opened) return 2;
  const today = options.today ?? new Date().toISOString().slice(0, 10);
  const page = opened.page(options.page, today, options.try ?? null, options.trace !== undefined);
  for (const one of page.problems) complain(problemLine(one, folders.length > 1));
  if (page.trace && options.trace) {
    const format = { ...unmetered, format: formatFor(opened.source?.shop().locale ?? 'en-GB') };
    const told = (value: unknown): string => {
      if (isRecord(value)) return String(value.name ?? value.title ?? value.label ?? 'a record');
      return Array.isArray(value) ? `${value.length} items` : printed(value as string, format);
    };
    writeFileSync(options.trace, `${JSON.stringify(traceTable(page.trace, told), null, 1)}\n`);
  }
  if (options.out) writeFileSync(options.out, page.html);
  else say(page.html);
  if (page.status === 404) complain(`There is no page ${options.page}.`);
  return page.status === 404 || page.problems.some((one) => one.severity === 'error') ? 1 : 0;
}
