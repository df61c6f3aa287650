import type { ProblemItem } from '@/contract/shared';
import type { LanguageStore } from './language';
import { type FileStore, layerOfText } from './open-file';
import type { PageStore } from './page';

/** Problems that only show when a page is made. */
const runtime = new Set(['blocked', 'budget', 'fault', 'depth', 'missing', 'style-value']);

/** Problems of the open file, and those elsewhere in what makes the page. */
export function problemsOf(workspace: {
  file: FileStore['now'];
  page: PageStore['now'];
  language: LanguageStore['now'];
}): { here: ProblemItem[]; elsewhere: ProblemItem[] } {
  const { file } = workspace.file;
  const { answer } = workspace.page;
  const checked = workspace.language.problems;
  const own = file && layerOfText(file, answer?.shopLayer ?? '');
  const here = !file
    ? []
    : (checked?.filter((one) => one.file === file.path && one.layer === own) ??
      (file.text === file.saved.text ? file.saved.problems : []));
  const key = (one: ProblemItem) => `${one.layer} ${one.file} ${one.line} ${one.code} ${one.message}`;
  const known = new Set([...here, ...(checked ?? [])].map(key));
  // What only making the page shows (a budget, a blocked address) is reported beside what checking finds.
  const fromPage = (answer?.page?.problems ?? []).filter(
    (one) => !known.has(key(one)) && (!checked || runtime.has(one.code)),
  );
  const isHere = new Set(here.map(key));
  return { here, elsewhere: [...(checked ?? []), ...fromPage].filter((one) => !isHere.has(key(one))) };
}
