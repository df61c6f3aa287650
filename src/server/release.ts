import type { ChangesAnswer } from '@/contract/api';
import type { StateRow } from '@/store/themes';
import { refuse } from './refusal';
import type { Shop } from './shop';

/** What a draft would change of what is live, and what would keep it from being published. */
export function changesOf(shop: Shop, draft: StateRow): ChangesAnswer {
  const { theme, wrong } = shop.theme(draft);
  const live = shop.themes.live();
  const now = live ? shop.theme(live).theme : null;
  const paths = new Set([...theme.paths(), ...(now?.paths() ?? [])]);
  const files: ChangesAnswer['files'] = [];
  for (const path of [...paths].sort()) {
    const [mine, theirs] = [theme.file(path)?.hash, now?.file(path)?.hash];
    if (mine === theirs) continue;
    files.push({ path, change: theirs === undefined ? 'added' : mine === undefined ? 'removed' : 'changed' });
  }
  const problems = theme.checkAll();
  for (const message of wrong) {
    problems.push({
      code: 'element',
      severity: 'error',
      file: 'alternates.json',
      from: 0,
      to: 0,
      line: 1,
      column: 1,
      length: 0,
      layer: 'shop',
      message,
    });
  }
  return { files, problems };
}

/** Puts a draft live in one step. Refused while a template has an error. */
export function publish(shop: Shop, draft: StateRow, note: string): { number: number } {
  const errors = changesOf(shop, draft).problems.filter((one) => one.severity === 'error');
  const [first] = errors;
  if (first) {
    const more = errors.length > 1 ? ` (and ${errors.length - 1} more)` : '';
    refuse(409, 'problems', `Not published: ${first.file}, line ${first.line}: ${first.message}${more}.`, {
      problems: errors,
    });
  }
  const release = shop.themes.transaction(() => shop.themes.publish(draft.id, note, new Date().toISOString(), ''));
  return { number: release.number ?? 0 };
}
