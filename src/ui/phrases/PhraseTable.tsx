'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useRef, type KeyboardEvent } from 'react';
import type { PhraseItem } from '@/contract/phrases';
import { isMissing } from './filter';
import { nameOf, type Phrase, type Typed } from './phrase-store';

interface Props {
  locales: readonly string[];
  rows: readonly PhraseItem[];
  typed: ReadonlyMap<string, Typed>;
  chosen: string | null;
  onChoose: (key: string) => void;
  /** The field of a language is wanted; null: the first. */
  onEnter: (key: string, locale: string | null) => void;
}

/** Height of a row, in pixels: rows out of sight are not made. */
const height = 40;
/** Widths of columns, in pixels: those of languages are at least so wide. */
const keyWidth = 250;
const textWidth = 230;
const usualSize = { width: 800, height: 640 };

const shown = (phrase: Phrase | null): string => {
  if (phrase === null || typeof phrase === 'string') return phrase ?? '';
  return Object.entries(phrase)
    .map(([form, text]) => `${form}: ${text}`)
    .join(' · ');
};

/** Phrases by key, a column a language. Up and down go through them, Enter goes to the fields of the chosen one. */
export function PhraseTable({ locales, rows, typed, chosen, onChoose, onEnter }: Props) {
  'use no memo';
  const room = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- it keeps its own state: this component is not memoized
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => room.current,
    estimateSize: () => height,
    overscan: 8,
    initialRect: usualSize,
  });
  const brought = useRef<string | null>(null);
  useEffect(() => {
    const at = rows.findIndex(({ key }) => key === chosen);
    if (at >= 0 && brought.current !== chosen) virtual.scrollToIndex(at);
    if (at >= 0 || chosen === null) brought.current = chosen;
  }, [chosen, rows, virtual]);
  const items = virtual.getVirtualItems();
  const before = items[0]?.start ?? 0;
  const after = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  const keys = (event: KeyboardEvent) => {
    const key = (event.target as HTMLElement).dataset.key;
    if (key === undefined) return;
    if (event.key === 'Enter') {
      event.preventDefault();
      onEnter(key, null);
      return;
    }
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (!step) return;
    event.preventDefault();
    const at = rows.findIndex((row) => row.key === key) + step;
    const next = rows[at];
    if (!next) return;
    virtual.scrollToIndex(at);
    onChoose(next.key);
    // A row that was out of sight is made first.
    const focus = (tries: number) => {
      const button = room.current?.querySelector<HTMLElement>(`[data-key="${CSS.escape(next.key)}"]`);
      if (button) button.focus();
      else if (tries) requestAnimationFrame(() => focus(tries - 1));
    };
    focus(5);
  };
  return (
    <div className="phrase-room" ref={room}>
      <table
        className="phrase-table"
        aria-label="Phrases"
        aria-rowcount={rows.length + 1}
        style={{ minWidth: keyWidth + locales.length * textWidth }}
        onKeyDown={keys}
      >
        <colgroup>
          <col style={{ width: keyWidth }} />
          {locales.map((locale) => (
            <col key={locale} />
          ))}
        </colgroup>
        <thead>
          <tr aria-rowindex={1}>
            <th scope="col">Phrase</th>
            {locales.map((locale) => (
              <th scope="col" key={locale}>
                {locale}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {before > 0 && <tr aria-hidden="true" style={{ height: before }} />}
          {items.map(({ index }) => {
            const row = rows[index];
            return (
              row && (
                <Row
                  key={row.key}
                  {...{ row, locales, onChoose, onEnter }}
                  at={index + 2}
                  chosen={row.key === chosen}
                  typed={typedOf(typed, row.key, locales)}
                />
              )
            );
          })}
          {after > 0 && <tr aria-hidden="true" style={{ height: after }} />}
        </tbody>
      </table>
    </div>
  );
}

const none: readonly (Typed | undefined)[] = [];

/** What is typed into a phrase, by language; the same list for all that nothing is typed into. */
const typedOf = (typed: ReadonlyMap<string, Typed>, key: string, locales: readonly string[]) =>
  typed.size && locales.some((locale) => typed.has(nameOf({ key, locale })))
    ? locales.map((locale) => typed.get(nameOf({ key, locale })))
    : none;

interface RowProps extends Pick<Props, 'locales' | 'onChoose' | 'onEnter'> {
  row: PhraseItem;
  at: number;
  chosen: boolean;
  typed: readonly (Typed | undefined)[];
}

/** Made again only where it changed: scrolling asks for the table many times a second. */
const Row = memo(function Row({ row, at, chosen, typed, locales, onChoose, onEnter }: RowProps) {
  return (
    <tr
      style={{ height }}
      aria-rowindex={at}
      aria-selected={chosen}
      onClick={(event) => {
        const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-locale]');
        if (cell) onEnter(row.key, cell.dataset.locale ?? null);
        else onChoose(row.key);
      }}
    >
      <th scope="row">
        <button type="button" data-key={row.key} aria-current={chosen || undefined}>
          <code>{row.key}</code>
        </button>
        {row.uses === 0 && <small className="quiet">not used</small>}
      </th>
      {locales.map((locale, nth) => (
        <Cell key={locale} locale={locale} text={row.texts[nth]} typed={typed[nth]} />
      ))}
    </tr>
  );
});

function Cell({
  locale,
  text,
  typed,
}: {
  locale: string;
  text: PhraseItem['texts'][number] | undefined;
  typed: Typed | undefined;
}) {
  const phrase = (typed ? typed.phrase : (text?.phrase ?? null)) as Phrase | null;
  return (
    <td data-locale={locale} data-typed={typed !== undefined} data-own={text?.own ?? false}>
      <span className="phrase-text">
        {typed ? (
          <>
            <em>not saved</em> {phrase === null ? 'goes back' : shown(phrase)}
          </>
        ) : phrase === null ? (
          <em className="is-wrong">missing</em>
        ) : (
          <>
            {text && isMissing(text) && <em className="is-wrong">lacks {text.lacks.join(', ')}</em>} {shown(phrase)}
          </>
        )}
      </span>
    </td>
  );
}
