import { applyFix, type ElementNode, type Template } from '@/core/language';
import { amendmentOf, elementAt, literalAttribute, pathTo } from './amendment';
import { TreeMatch } from './match';

/** A place by path of an amendment, after the file below was changed. */
export interface FollowedPlace {
  /** In the amendment. */
  line: number;
  was: string;
  /** The path to the same element now; null: there is none like it. */
  is: string | null;
  /** Whether no other element may be meant. */
  certain: boolean;
  /** The path to another that may be meant. */
  other: string | null;
}

/**
 * The places by path of an amendment in a changed file: where the elements are that they named. The text has them rewritten;
 * where that is not certain the operation keeps what it was as `was`, which the checker reports until someone has looked, and one whose element is
 * gone has no place until it is given another. `places` are those that are not where they were.
 */
export function followPlaces(
  amendment: Template,
  old: Template,
  match: TreeMatch,
  now: Template,
): { text: string; places: FollowedPlace[] } {
  const places: FollowedPlace[] = [];
  const edits: { from: number; to: number; text: string }[] = [];
  const { source } = amendment;
  for (const operation of amendmentOf(amendment)?.children ?? []) {
    if (operation.type !== 'element') continue;
    const was = literalAttribute(operation, 'at');
    const element = was ? elementAt(old.children, was).element : null;
    if (!was || !element) continue;
    const found = match.find(element);
    const path = (one: ElementNode | null) => one && pathTo(now.children, one);
    const is = path(found.element);
    if (found.certain && found.element && elementAt(now.children, was).element === found.element) continue;
    const at = operation.attributes.find(({ name }) => name === 'at');
    if (!at) continue;
    places.push({
      line: source.place(operation.from).line,
      ...{ was, is, certain: found.certain && is !== null, other: path(found.other) },
    });
    const keeps = literalAttribute(operation, 'was') === null && !(found.certain && is);
    edits.push({ from: at.from, to: at.to, text: `at="${is ?? ''}"${keeps ? ` was="${was}"` : ''}` });
  }
  return { text: applyFix(source.text, { title: '', edits }), places };
}
