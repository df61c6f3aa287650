'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Input, Space } from 'antd';
import Link from 'next/link';
import { useEffect, useRef } from 'react';
import { phraseEndpoints, type PhraseItem, type PhrasesAnswer } from '@/contract/phrases';
import { inOrder, isSame } from '@/core/phrases';
import { call, messageOf, useMay } from '@/ui/shared';
import { problemsIn, type Phrase, type PhraseStore, type Typed } from './phrase-store';

interface Props {
  draft: string;
  row: PhraseItem;
  locales: PhrasesAnswer['locales'];
  store: PhraseStore;
  typed: ReadonlyMap<string, Typed>;
  /** The language whose field takes the focus; null: the first. */
  wanted?: { locale: string | null } | null;
}

const languageName = (locale: string): string => new Intl.DisplayNames('en', { type: 'language' }).of(locale) ?? locale;

/** A phrase in each language, to be changed; and every place that uses it. */
export function PhraseForm({ draft, row, locales, store, typed, wanted = null }: Props) {
  const room = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!wanted) return;
    const within = wanted.locale === null ? '' : `[data-locale="${CSS.escape(wanted.locale)}"] `;
    room.current?.querySelector<HTMLElement>(`${within}textarea`)?.focus();
  }, [wanted]);
  // Where a phrase is used is a line of source.
  const source = useMay('source');
  const uses = useQuery({
    enabled: source,
    queryKey: ['phrase-uses', draft, row.key],
    queryFn: () => call(phraseEndpoints.uses, { draft, key: row.key }),
  });
  return (
    <div className="phrase-form" ref={room}>
      <h2>
        <code>{row.key}</code>
      </h2>
      {row.places.length > 0 && <p className="quiet">Filled in: {row.places.map((name) => `{${name}}`).join(', ')}</p>}
      {locales.map(({ locale, forms }, at) => (
        <Language
          key={locale}
          {...{ row, locale, forms, store }}
          text={row.texts[at] ?? { phrase: null, layer: '', own: false, lacks: [] }}
          typed={typed.get(`${locale} ${row.key}`) ?? null}
        />
      ))}
      {source && (
        <section aria-label="Where it is used">
          <h3>Where it is used</h3>
          {uses.isError && <Alert type="error" title={messageOf(uses.error)} />}
          {uses.data?.length === 0 && (
            <p className="quiet">
              {row.uses
                ? 'No call of t() names it: the shop itself asks for it, or its key is given as an input, a choice or a setting.'
                : 'Nothing names it: it may be left over.'}
            </p>
          )}
          <ul className="phrase-uses">
            {uses.data?.map(({ file, layer, line, from, text }) => (
              <li key={`${layer} ${file} ${from}`}>
                <Link href={`/bench?${new URLSearchParams({ draft, file })}`}>
                  {file}, line {line}
                </Link>{' '}
                <span className="quiet">{layer}</span>
                <code>{text}</code>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

interface LanguageProps {
  row: PhraseItem;
  locale: string;
  forms: readonly string[];
  text: PhraseItem['texts'][number];
  typed: Typed | null;
  store: PhraseStore;
}

function Language({ row, locale, forms, text, typed, store }: LanguageProps) {
  const shown = text.phrase as Phrase | null;
  const now = typed ? typed.phrase : shown;
  const first = row.first as Phrase | null;
  const counted = (now ?? first) !== null && typeof (now ?? first) === 'object';
  const problems = problemsIn(row, locale, now);
  const late = typed && !isSame(shown, typed.seen);
  const fields = counted
    ? inOrder([...forms, ...Object.keys(typeof now === 'object' && now !== null ? now : {})])
    : [''];
  const textOf = (phrase: Phrase | null, form: string): string => {
    if (phrase === null) return '';
    if (typeof phrase === 'string') return form === '' ? phrase : '';
    return phrase[form] ?? '';
  };
  return (
    <fieldset className="phrase-language" data-locale={locale} data-typed={typed !== null}>
      <legend>
        {languageName(locale)} <small className="quiet">{locale}</small>
      </legend>
      {fields.map((form) => {
        const wrong = problems.find((one) => one.form === form);
        const id = `phrase-${locale}-${form}`;
        return (
          <div key={form} className="phrase-field">
            {form && <label htmlFor={id}>{form}</label>}
            <Input.TextArea
              id={id}
              autoSize={{ minRows: 1, maxRows: 8 }}
              lang={locale}
              aria-label={form ? undefined : `${row.key} in ${languageName(locale)}`}
              aria-describedby={wrong ? `${id}-wrong` : undefined}
              status={wrong?.severity === 'error' ? 'error' : wrong ? 'warning' : ''}
              value={textOf(now, form)}
              placeholder={now === null ? textOf(first, form) || textOf(first, 'other') : ''}
              onChange={({ target }) => store.type(row, locale, shown, form, target.value)}
            />
            {wrong && (
              <small id={`${id}-wrong`} className={wrong.severity === 'error' ? 'is-wrong' : 'is-warned'}>
                {wrong.text}
              </small>
            )}
          </div>
        );
      })}
      {late && (
        <Alert
          type="warning"
          title={`Someone changed it meanwhile: ${shown === null ? 'the shop’s own is gone' : `it says “${Object.values(typeof shown === 'string' ? { shown } : shown).join(' / ')}”`}.`}
          action={
            <Space>
              <Button size="small" onClick={() => store.keepMine(typed, shown)}>
                Keep mine
              </Button>
              <Button size="small" onClick={() => store.drop(typed)}>
                Take theirs
              </Button>
            </Space>
          }
        />
      )}
      <div className="phrase-foot">
        <small className="quiet">
          {typed
            ? 'Not saved yet'
            : text.own
              ? 'The shop’s own'
              : text.layer
                ? `From ${text.layer}`
                : 'Missing: the text in grey shows'}
          {!typed && text.lacks.length > 0 && ` · lacks ${text.lacks.join(', ')}`}
        </small>
        {typed ? (
          <Button size="small" onClick={() => store.drop(typed)}>
            Leave as it was
          </Button>
        ) : (
          text.own && (
            <Button size="small" onClick={() => store.put({ key: row.key, locale, phrase: null, seen: shown })}>
              Remove the shop’s own
            </Button>
          )
        )}
        {!counted && row.places.includes('count') && (
          <Button
            size="small"
            onClick={() =>
              store.put({
                ...{ key: row.key, locale, seen: typed ? typed.seen : shown },
                phrase: Object.fromEntries(forms.map((form) => [form, textOf(now, '') || textOf(first, '')])),
              })
            }
          >
            A text for each number
          </Button>
        )}
      </div>
    </fieldset>
  );
}
