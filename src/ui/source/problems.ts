import { forEachDiagnostic, type Action, type Diagnostic } from '@codemirror/lint';
import type { Text } from '@codemirror/state';
import type { EditorView } from '@codemirror/view';
import type { ProblemItem } from '@/contract/shared';

/** Called with the phrases that a fix brings. */
export type OnPhrases = (phrases: NonNullable<NonNullable<ProblemItem['fix']>['phrases']>) => void;

/** The fix of a problem, as something to do beside its message; only to the text that the problem was found in. */
function fixActions({ fix }: ProblemItem, found: Text, readOnly: boolean, onPhrases: OnPhrases): Action[] {
  // Phrases go into other files: they may come into a shop whose file this is not.
  if (!fix || (readOnly && fix.edits.length > 0)) return [];
  const apply = (view: EditorView) => {
    if (!view.state.doc.eq(found)) return;
    const changes = fix.edits.map(({ from, to, text }) => ({ from, to, insert: text }));
    if (changes.length) view.dispatch({ changes, userEvent: 'input.fix' });
    if (fix.phrases?.length) onPhrases(fix.phrases);
  };
  return [{ name: fix.title, apply }];
}

/** Problems as the editor shows them. */
export function diagnosticsOf(
  problems: readonly ProblemItem[],
  doc: Text,
  readOnly: boolean,
  onPhrases: OnPhrases,
): Diagnostic[] {
  return problems.map((one) => ({
    actions: fixActions(one, doc, readOnly, onPhrases),
    from: Math.min(one.from, doc.length),
    to: Math.min(Math.max(one.to, one.from), doc.length),
    severity: one.severity === 'note' ? ('info' as const) : one.severity,
    message: one.message,
  }));
}

/** Applies the first fix that is offered at the caret; false when there is none. */
export function fixHere(view: EditorView): boolean {
  const at = view.state.selection.main.from;
  let fixed = false;
  forEachDiagnostic(view.state, ({ actions }, from, to) => {
    const [first] = actions ?? [];
    if (fixed || !first || from > at || at > to) return;
    fixed = true;
    first.apply(view, from, to);
  });
  return fixed;
}
