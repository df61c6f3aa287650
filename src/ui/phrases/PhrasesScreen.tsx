'use client';
import { Alert, Button, Empty, Input, Select, Skeleton } from 'antd';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { addressOf } from '@/contract/endpoint';
import { phraseEndpoints } from '@/contract/phrases';
import { messageOf, usePlace } from '@/ui/shared';
import { filtered, isMissing, type Filter } from './filter';
import { PhraseForm } from './PhraseForm';
import { PhraseTable } from './PhraseTable';
import { SaveFailed } from './SaveFailed';
import { SheetDialog } from './SheetDialog';
import { usePhrases } from './usePhrases';
import './phrases.css';

/** All phrases in all languages side by side: found, changed, sent to translators, and read when they come back. `switcher` leads to the theme's files. */
export function PhrasesScreen({ switcher }: { switcher: ReactNode }) {
  const { draft, get, go } = usePlace();
  const { store, typed, phrases, data, locales, byKey, save, standing } = usePhrases(draft);
  const [words, setWords] = useState('');
  const [show, setShow] = useState('all');
  const [layer, setLayer] = useState<string | null>(null);
  const [taking, setTaking] = useState(false);
  /** The phrase whose field is wanted, and its language; null: the first. */
  const [wanted, setWanted] = useState<{ key: string; locale: string | null } | null>(null);
  const typedKeys = useMemo(() => new Set([...typed.values()].map(({ key }) => key)), [typed]);
  const [what, locale = null] = show.split(' ');
  const filter: Filter = { words, show: what as Filter['show'], locale, layer };
  const rows = filtered(data?.rows ?? [], locales, filter, (key) => typedKeys.has(key));
  const chosen = get('phrase');
  const row = (chosen !== null && byKey.get(chosen)) || null;
  const { ready, late, wrong } = standing;
  const saveAll = useRef(() => {});
  useEffect(() => {
    saveAll.current = () => ready.length > 0 && !save.isPending && save.mutate(ready);
  });
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 's') return;
      event.preventDefault();
      saveAll.current();
    };
    document.addEventListener('keydown', pressed);
    return () => document.removeEventListener('keydown', pressed);
  }, []);
  const choose = useCallback((key: string) => go({ phrase: key }, true), [go]);
  const enter = useCallback(
    (key: string, one: string | null) => {
      go({ phrase: key }, true);
      setWanted({ key, locale: one });
    },
    [go],
  );
  const missing = (at: number) =>
    (data?.rows ?? []).filter(({ texts }) => texts.slice(at, at + 1).some(isMissing)).length;
  const numbered = (says: string, number: number) => `${says} ${number.toLocaleString('en')}`;
  const all = data?.rows ?? [];
  return (
    <main className="phrases">
      <section className="phrase-list" aria-label="Phrases of the theme">
        <h1 className="unseen">Words</h1>
        <div className="theme-tools">
          {switcher}
          <Input
            allowClear
            aria-label="Find a phrase"
            placeholder="Find a key, or a text in any language"
            value={words}
            onChange={({ target }) => setWords(target.value)}
          />
          <Select
            aria-label="Which phrases"
            value={show}
            onChange={setShow}
            popupMatchSelectWidth={false}
            options={[
              { value: 'all', label: numbered('All', all.length) },
              ...locales.map((one, at) => ({
                value: `missing ${one}`,
                label: numbered(`Missing in ${one}`, missing(at)),
              })),
              { value: 'unused', label: numbered('Not used', all.filter(({ uses }) => !uses).length) },
              {
                value: 'own',
                label: numbered('The shop’s own', all.filter(({ texts }) => texts.some(({ own }) => own)).length),
              },
              { value: 'typed', label: numbered('Not saved', typedKeys.size) },
            ]}
          />
          <Select
            aria-label="From which layer"
            value={layer ?? ''}
            onChange={(value) => setLayer(value || null)}
            popupMatchSelectWidth={false}
            options={[
              { value: '', label: 'Any layer' },
              ...(data?.layers ?? []).map((value) => ({ value, label: value })),
            ]}
          />
          <Button href={addressOf(phraseEndpoints.sheet, { draft })} download>
            Export CSV
          </Button>
          <Button onClick={() => setTaking(true)}>Import CSV…</Button>
        </div>
        {phrases.isError && <Alert type="error" showIcon title={messageOf(phrases.error)} />}
        {phrases.isLoading && <Skeleton active />}
        {data && <PhraseTable {...{ locales, rows, typed, chosen }} onChoose={choose} onEnter={enter} />}
        {data && !rows.length && (
          <p className="empty">
            {all.length
              ? 'No phrase fits that. Change what is looked for, or which are listed.'
              : "This theme has no phrases yet: `t('…')` in a template asks for one."}
          </p>
        )}
      </section>
      <section
        className="phrase-side"
        aria-label="The phrase"
        onKeyDown={(event) => {
          if (event.key !== 'Escape' || chosen === null) return;
          document.querySelector<HTMLElement>(`[data-key="${CSS.escape(chosen)}"]`)?.focus();
        }}
      >
        {typed.size > 0 && (
          <div className="phrase-save">
            <span role="status">
              {numbered('Not saved:', typed.size)}
              {wrong.length > 0 && `, ${wrong.length} cannot be yet`}
              {late.length > 0 && `, ${late.length} changed meanwhile`}
            </span>
            <Button
              type="primary"
              disabled={!ready.length}
              loading={save.isPending}
              title="Save (Ctrl S)"
              onClick={() => save.mutate(ready)}
            >
              Save
            </Button>
          </div>
        )}
        <SaveFailed error={save.error} />
        {row && data ? (
          <PhraseForm
            key={row.key}
            {...{ draft, row, store, typed }}
            locales={data.locales}
            wanted={wanted?.key === row.key ? wanted : null}
          />
        ) : (
          data && (
            <Empty
              image={Empty.PRESENTED_IMAGE_SIMPLE}
              description={
                chosen === null
                  ? 'Choose a phrase: it is changed here, in every language.'
                  : `There is no phrase “${chosen}” any more.`
              }
            />
          )
        )}
      </section>
      <SheetDialog draft={draft} open={taking} onClose={() => setTaking(false)} />
    </main>
  );
}
