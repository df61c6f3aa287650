import { subjectOf, type SubjectKind } from '@/core/catalogue';
import type { Template, Value } from '@/core/language';
import { sameTarget, templateOf, type Alternates, type Target } from './alternates';
import type { Chooser } from './choose';

/** Kinds of subject by the type that a piece's input is declared with. */
const kindOfType: Record<string, SubjectKind> = {
  Product: 'product',
  Category: 'category',
  Listing: 'listing',
  Content: 'content',
  Article: 'article',
};

/** The input by which a piece is given its subject: the first of a subject's type; null for a piece that takes none. */
export function subjectInput(template: Pick<Template, 'takes'>): { name: string; kind: SubjectKind } | null {
  for (const { name, type } of template.takes) {
    const kind = kindOfType[type];
    if (kind) return { name, kind };
  }
  return null;
}

/** The alternate that a name like `pieces/tile/book` means; null for any other. */
export function pieceTried(all: Alternates, tried: string | null): (Target & { piece: string; name: string }) | null {
  const found = all.alternates.find((one) => one.piece !== undefined && templateOf(one, one.name) === tried);
  return found?.piece === undefined ? null : { kind: found.kind, piece: found.piece, name: found.name };
}

/**
 * Tells which template is drawn in the place of a piece, by the subject that the piece is given; null for a theme whose
 * pieces have no alternates, so that drawing asks nothing.
 */
export function pieceChooser(
  all: Alternates,
  chooser: Chooser,
  templates: { template(name: string): Pick<Template, 'takes'> | null },
  tried: string | null = null,
): ((piece: string, inputs: Readonly<Record<string, Value>>) => string) | null {
  const targets = new Map<string, Target & { input: string }>();
  for (const { kind, piece } of [...all.alternates, ...all.pins, ...all.rules]) {
    if (piece === undefined || targets.has(piece)) continue;
    const template = templates.template(piece);
    const input = template && subjectInput(template);
    if (input?.kind === kind) targets.set(piece, { kind, piece, input: input.name });
  }
  if (!targets.size) return null;
  const asked = pieceTried(all, tried);
  return (piece, inputs) => {
    const target = targets.get(piece);
    const subject = target ? subjectOf(inputs[`$${target.input}`]) : null;
    if (!target || subject?.kind !== target.kind) return piece;
    const named = asked && sameTarget(asked, target) ? asked.name : null;
    return chooser.choose(target, subject.slug, subject.facts, named).template;
  };
}
