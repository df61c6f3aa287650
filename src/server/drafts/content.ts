import { type ContentChange, contentChanges, isContent } from '@/core/compare';
import { refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { type StateRow, StoredSettings } from '@/store';
import { type Checked, publish, type Reviewed } from './release';

export interface ContentNow {
  /** An owner lets staff publish what is content alone. */
  allowed: boolean;
  /** Nothing but content differs from what is live. */
  only: boolean;
  changes: ContentChange[];
}

/** What a draft would change of what is live, as staff see it: without the names of files. */
export function contentOfDraft(shop: Shop, draft: StateRow): ContentNow {
  const live = shop.themes.live();
  const { locales } = shop.catalogue().shop();
  const all = live ? contentChanges(shop.theme(live).theme, shop.theme(draft).theme, locales) : [];
  const changes = all.filter(({ kind }) => kind !== 'file');
  return {
    allowed: new StoredSettings(shop.sql).all().staffPublish,
    only: live !== null && changes.length === all.length && sameBelow(shop, live, draft),
    changes,
  };
}

/** Whether both stand on the same bases and add-ons. */
function sameBelow(shop: Shop, a: StateRow, b: StateRow): boolean {
  const below = ({ id }: StateRow) =>
    shop.themes
      .layers(id)
      .filter(({ kind }) => kind !== 'shop')
      .map(({ id: layer }) => layer)
      .join(' ');
  return below(a) === below(b);
}

/** Publishes a draft for someone who may publish content alone. Refused where an owner does not allow that, or more than content differs. */
export function publishContent(
  shop: Shop,
  draft: StateRow,
  asked: { note: string } & Reviewed,
  by: string,
  checked: Checked,
): { number: number } {
  const { allowed, only } = contentOfDraft(shop, draft);
  if (!allowed)
    refuse(403, 'right', 'Only developers publish here. An owner can let staff publish what is content alone.');
  if (!only)
    refuse(
      409,
      'content',
      'Not published: more than pieces and words differ from what is live. Ask for a review instead.',
    );
  const wrong = checked.problems.some(({ severity, file }) => severity === 'error' && !isContent(file));
  // What is wrong in a template is for those who see it.
  if (wrong || checked.faults.length)
    refuse(
      409,
      'problems',
      'Not published: a template has an error. Ask for a review, so that a developer puts it right.',
    );
  return publish(shop, draft, asked, by, checked);
}
