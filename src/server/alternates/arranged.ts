import { subjectKinds } from '@/core/address';
import type { SubjectKind } from '@/core/catalogue';
import { pieceLabel, saidIn, type Theme } from '@/core/theme';

/** Pages with placements of their own, each with what its pieces are called. */
export function arrangedPages(theme: Theme): Map<string, { kind: SubjectKind; slug: string; pieces: string[] }> {
  const pages = new Map<string, { kind: SubjectKind; slug: string; pieces: string[] }>();
  for (const { subject, piece, hidden } of theme.shelves) {
    const [, kind, slug = ''] = /^([a-z]+)\/(.+)$/.exec(subject ?? '') ?? [];
    const known = subjectKinds.find((one) => one === kind);
    if (!subject || !known || hidden) continue;
    const label = saidIn(pieceLabel(piece, theme.template(piece)), [], theme);
    const page = pages.get(subject);
    if (page) page.pieces.push(label);
    else pages.set(subject, { kind: known, slug, pieces: [label] });
  }
  return pages;
}
