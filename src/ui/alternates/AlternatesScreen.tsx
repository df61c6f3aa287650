'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Modal, Skeleton } from 'antd';
import Link from 'next/link';
import { useState } from 'react';
import type { AlternatesAnswer, PageAnswer, SubjectItem, SubjectKind, ViewAnswer } from '@/contract/api';
import { pathOf } from '@/core/storefront/route';
import { api, messageOf } from '../shared/api';
import { LayerTag } from '../shared/LayerTag';
import { usePlace } from '../shared/place';
import { SubjectField, SubjectsField } from '../shared/SubjectPicker';
import { MakeAlternate } from './MakeAlternate';
import { Swatch } from './Swatch';
import { usePins } from './usePins';

type Kind = AlternatesAnswer['kinds'][number];

const plural: Record<string, string> = {
  product: 'products',
  category: 'categories',
  listing: 'listings',
  content: 'content pages',
  home: 'home page',
};

/** Which templates there are for a kind of page, who has which, and why. */
export function AlternatesScreen() {
  const { draft, get, go } = usePlace();
  const kindName = get('kind') ?? 'product';
  const [making, setMaking] = useState(false);
  const [pinning, setPinning] = useState<string | null>(null);
  const [chosen, setChosen] = useState<SubjectItem[]>([]);
  const pins = usePins(draft);
  const overview = useQuery({
    queryKey: ['alternates', draft],
    queryFn: () => api<AlternatesAnswer>('GET', `/api/drafts/${draft}/alternates`),
  });
  const kind = overview.data?.kinds.find((one) => one.kind === kindName);
  const target = kind?.templates.find((one) => one.name === pinning);

  return (
    <main className="alternates">
      <section className="alternates-templates" aria-labelledby="templates-title">
        <nav className="kinds" aria-label="Kinds of page">
          {overview.data?.kinds.map((one) => (
            <button
              key={one.kind}
              type="button"
              aria-pressed={one.kind === kindName}
              onClick={() => go({ kind: one.kind })}
            >
              {one.kind} <small>{one.templates.length}</small>
            </button>
          ))}
        </nav>
        <div className="section-head">
          <h2 id="templates-title">
            Templates <small>for {kindName} pages</small>
          </h2>
          <Button size="small" type="primary" onClick={() => setMaking(true)} disabled={!kind}>
            New alternate
          </Button>
        </div>
        {overview.isError && <Alert type="error" showIcon title={messageOf(overview.error)} />}
        {overview.data?.wrong.map((wrong) => (
          <Alert key={wrong} type="error" showIcon title={wrong} />
        ))}
        {overview.isLoading && <Skeleton active />}
        <ul className="template-cards">
          {kind?.templates.map((template, at) => (
            <li key={template.name}>
              <Swatch at={at} />
              <div>
                <Link
                  href={`/bench?draft=${draft}&file=${encodeURIComponent(template.file)}`}
                  title={`Open ${template.file} on the Bench`}
                >
                  {template.label}
                </Link>
                <p>
                  <code>{template.file.replace(/\.html$/, '')}</code>{' '}
                  {template.layer && <LayerTag layer={template.layer} />}
                  {template.types.length > 0 && <> · meant for {template.types.join(', ')}</>}
                </p>
                {template.note && <p>{template.note}</p>}
                {!template.layer && <p className="is-wrong">● Its file is missing: default serves instead.</p>}
              </div>
              <strong title={`${template.count} of ${kind.subjects}`}>{template.count}</strong>
            </li>
          ))}
        </ul>
        {kind && kind.templates.length === 1 && (
          <p className="empty">
            Every {kindName} page gets <strong>default</strong>. Make an alternate when some should look different.
          </p>
        )}
      </section>

      <section className="alternates-who" aria-labelledby="who-title">
        <h2 id="who-title">
          Who gets what <small>{kind ? `${kind.subjects} ${plural[kind.kind]}` : ''}</small>
        </h2>
        {kind && (
          <WhoGetsWhat
            kind={kind}
            draft={draft}
            onPin={setPinning}
            onUnpin={(subject) =>
              pins.mutate({ subjects: [{ kind: subject.kind, slug: subject.slug }], alternate: null })
            }
          />
        )}
      </section>

      <Why draft={draft} />

      <MakeAlternate
        draft={draft}
        kind={kindName}
        from="default"
        open={making}
        onClose={() => setMaking(false)}
        onMade={setPinning}
      />
      <Modal
        title={target ? `Pin ${plural[kindName]} to “${target.label}”` : ''}
        open={target !== undefined}
        onCancel={() => setPinning(null)}
        okText={chosen.length === 1 ? 'Pin it' : `Pin ${chosen.length || ''}`.trim()}
        cancelText="Not now"
        okButtonProps={{ disabled: chosen.length === 0, loading: pins.isPending }}
        onOk={() =>
          pins.mutate(
            { subjects: chosen.map(({ kind: of, slug }) => ({ kind: of, slug })), alternate: pinning },
            {
              onSuccess: () => {
                setChosen([]);
                setPinning(null);
              },
            },
          )
        }
        destroyOnHidden
      >
        <label className="field" htmlFor="pin-subjects">
          {`Which ${plural[kindName]}?`}
        </label>
        <SubjectsField id="pin-subjects" kind={kindName as SubjectKind} value={chosen} onChange={setChosen} />
        <p className="quiet">One that is pinned elsewhere moves here. Nothing is live before you publish.</p>
      </Modal>
    </main>
  );
}

interface WhoProps {
  kind: Kind;
  draft: string;
  onPin: (name: string) => void;
  onUnpin: (subject: { kind: SubjectKind; slug: string }) => void;
}

function WhoGetsWhat({ kind, draft, onPin, onUnpin }: WhoProps) {
  return (
    <div className="who">
      {kind.templates.map((template, at) => (
        <article key={template.name} aria-label={template.label}>
          <div className="who-head">
            <Swatch at={at} />
            <h3>{template.label}</h3>
            <span className="who-bar" aria-hidden="true">
              <i style={{ width: `${kind.subjects ? (100 * template.count) / kind.subjects : 0}%` }} />
            </span>
            <span>
              {template.count} of {kind.subjects}
            </span>
            {template.name !== 'default' && (
              <Button size="small" onClick={() => onPin(template.name)}>
                Pin…
              </Button>
            )}
          </div>
          {template.name === 'default' ? (
            <p className="quiet">Everything that is not pinned below.</p>
          ) : template.pinned.length === 0 ? (
            <p className="quiet">Nobody gets this one yet. Pin it to real pages, or try it on the Bench.</p>
          ) : (
            <ul>
              {template.pinned.map((subject) => (
                <li key={subject.slug}>
                  <span>
                    {subject.gone ? (
                      <>
                        <code>{subject.slug}</code> <span className="is-wrong">● There is no such page any more</span>
                      </>
                    ) : (
                      <Link href={`/bench?draft=${draft}&page=${encodeURIComponent(pathOf(subject))}`}>
                        {subject.name}
                      </Link>
                    )}{' '}
                    <small>{subject.detail}</small>
                    {subject.unmeant && <span className="is-wrong"> ● Not a type it is meant for</span>}
                  </span>
                  <Button
                    size="small"
                    type="text"
                    aria-label={`Unpin ${subject.name}`}
                    onClick={() => onUnpin(subject)}
                  >
                    Unpin
                  </Button>
                </li>
              ))}
            </ul>
          )}
        </article>
      ))}
    </div>
  );
}

/** Any page, and why it gets the template it gets. */
function Why({ draft }: { draft: string }) {
  const [subject, setSubject] = useState<SubjectItem | null>(null);
  const address = subject ? pathOf(subject) : null;
  const page = useQuery({
    queryKey: ['page', draft, address, null],
    queryFn: async () => {
      const { origin } = window.location;
      const asked = { view: null, address: address ?? '/', try: null, origin, unsaved: [], shown: null };
      return (await api<ViewAnswer>('POST', `/api/drafts/${draft}/view`, asked)).page as PageAnswer;
    },
    enabled: address !== null,
  });
  const name = page.data?.template.split('/')[1] ?? '';
  const label = page.data?.choices.find((one) => one.name === name)?.label ?? name;
  return (
    <section className="alternates-why" aria-labelledby="why-title">
      <h2 id="why-title">Why</h2>
      <SubjectField
        label="A page to explain"
        placeholder="Choose any page"
        value={subject?.name ?? null}
        onPick={setSubject}
      />
      {!subject && <p className="quiet">Choose any page to read which template it gets, and why.</p>}
      {page.isError && <Alert type="error" showIcon title={messageOf(page.error)} />}
      {subject && page.data && (
        <>
          <p className="why-gets">
            gets <strong>{label}</strong>
          </p>
          <ul className="why-steps">
            <li data-held={page.data.because === 'pin'}>
              {page.data.because === 'pin' ? `✓ Pinned to ${label}` : '– Not pinned'}
            </li>
            <li data-held={page.data.because === 'default'}>
              {page.data.because === 'default' ? '✓ So default serves' : '· default not needed'}
            </li>
          </ul>
          <Link className="quiet-link" href={`/bench?draft=${draft}&page=${encodeURIComponent(address ?? '/')}`}>
            Open on the Bench
          </Link>
        </>
      )}
    </section>
  );
}
