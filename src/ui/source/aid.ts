import {
  autocompletion,
  snippet,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { EditorState, type Extension } from '@codemirror/state';
import { EditorView, hoverTooltip, keymap } from '@codemirror/view';
import { takesSuggestions, type Suggestion, type Use } from '@/core/editing';
import type { Spot } from './language-service';
import type { AskLanguage } from './language-client';

interface Given {
  ask: AskLanguage;
  file: string;
  layer: string;
  /** Goes to where a thing is made. */
  onDefinition: (use: Use) => void;
  /** Lists where a thing is used. */
  onUses: (use: Use) => void;
  onRename: (use: Use) => void;
}

const kinds: Record<Suggestion['kind'], string> = {
  name: 'variable',
  field: 'property',
  filter: 'function',
  function: 'function',
  piece: 'class',
  input: 'property',
  directive: 'keyword',
  element: 'type',
  text: 'text',
};

function completionOf({ label, kind, detail, says, writes, rank }: Suggestion): Completion {
  // A snippet's own signs are taken as they are; the bar is where the caret goes.
  const template = writes.replace(/[\\${}#]/g, (sign) => `\\${sign}`).replace('|', '${}');
  return {
    label,
    type: kinds[kind],
    detail,
    boost: rank * 10,
    ...(says ? { info: says } : {}),
    ...(writes === label ? {} : { apply: snippet(template) }),
  };
}

/** What the editor does with the language: suggestions, hovers, the way to definitions and uses. */
export function languageAid({ ask, file, layer, onDefinition, onUses, onRename }: Given): Extension {
  const isJson = file.endsWith('.json');
  if (!isJson && !file.endsWith('.html')) return autocompletion();
  const spot = (state: EditorState, offset: number): Spot => ({ file, layer, text: state.doc.toString(), offset });
  const source = async (context: CompletionContext): Promise<CompletionResult | null> => {
    const before = context.state.sliceDoc(Math.max(0, context.pos - 1), context.pos);
    if (!context.explicit && !/[\w.{|<"'(: -]/.test(before)) return null;
    if (!isJson && !takesSuggestions(context.state.sliceDoc(Math.max(0, context.pos - 4000), context.pos))) return null;
    const asking = new AbortController();
    context.addEventListener('abort', () => asking.abort(), { onDocChange: true });
    const found = await ask('complete', spot(context.state, context.pos), asking.signal).catch(() => null);
    if (!found?.options.length || context.aborted) return null;
    // In running text only what was asked for: a space there is no wish for suggestions.
    if (!context.explicit && found.from === context.pos && /[\s]/.test(before)) return null;
    return { from: found.from, options: found.options.map(completionOf), validFor: /^[\w:/.-]*$/ };
  };
  const at = (view: EditorView, offset: number, then: (use: Use) => void): boolean => {
    void ask('thing', spot(view.state, offset)).then((use) => use && then(use));
    return true;
  };
  const caret = (view: EditorView) => view.state.selection.main.head;
  return [
    autocompletion({ activateOnTyping: true, maxRenderedOptions: 80, icons: false }),
    EditorState.languageData.of(() => [{ autocomplete: source }]),
    hoverTooltip(async (view, offset) => {
      const hover = await ask('hover', spot(view.state, offset)).catch(() => null);
      if (!hover) return null;
      return {
        pos: hover.from,
        end: hover.to,
        above: true,
        create: () => {
          const dom = document.createElement('div');
          dom.className = 'hover-card';
          const title = document.createElement('code');
          title.textContent = hover.title;
          dom.append(title);
          if (hover.says) {
            const says = document.createElement('p');
            says.textContent = hover.says;
            dom.append(says);
          }
          return { dom };
        },
      };
    }),
    EditorView.domEventHandlers({
      mousedown: (event, view) => {
        if (!(event.ctrlKey || event.metaKey) || event.button !== 0) return false;
        const offset = view.posAtCoords({ x: event.clientX, y: event.clientY });
        return offset === null ? false : at(view, offset, onDefinition);
      },
    }),
    keymap.of([
      { key: 'F12', run: (view) => at(view, caret(view), onDefinition) },
      { key: 'Shift-F12', run: (view) => at(view, caret(view), onUses) },
      { key: 'F2', run: (view) => at(view, caret(view), onRename) },
    ]),
  ];
}
