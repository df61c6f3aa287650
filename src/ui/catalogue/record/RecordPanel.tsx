'use client';
import { draftAddress } from '@/core/address';
import { CloseOutlined } from '@ant-design/icons';
import { useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Popover, Skeleton, ConfigProvider } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { RecordKindName } from '@/contract/records';
import {
  ApiError,
  call,
  callForLines,
  type FrameHandle,
  messageOf,
  PageFrame,
  readStored,
  useDraftSite,
  usePlace,
  writeStored,
  useMay,
  tellsFramed,
} from '@/ui/shared';
import { Explain } from '@/ui/alternates';
import { nameOfRecord, pageOfRecord } from '../kinds';
import { RecordForm } from './forms';
import { RemoveRecord } from './RemoveRecord';
import { RecordStore, type Draft } from './record-store';
import { UsedBy } from './UsedBy';

const keyOf = (name: string) => `goods-record-${name}`;

function keptDraft(slug: string): Draft | null {
  try {
    return JSON.parse(readStored(keyOf(slug), 'null')) as Draft | null;
  } catch {
    return null;
  }
}

/** Width of the window that the page beside believes in, in CSS pixels. */
const pageWidth = 460;

const because = { tried: 'tried', pin: 'by a pin', rule: 'by a rule', default: '' };

interface Props {
  kind: RecordKindName;
  slug: string;
  onClose?: () => void;
  /** It was saved, undone or removed. */
  onChanged?: () => void;
}

/** A record, with its page in the draft beside it: each change is seen there before it is saved. */
export function RecordPanel({ kind, slug, onClose, onChanged }: Props) {
  const queries = useQueryClient();
  const { draft, go } = usePlace();
  const { base, origin } = useDraftSite(draft || 'none');
  const goods = useMay('goods');
  const source = useMay('source');
  const frame = useRef<FrameHandle>(null);
  const [loaded, setLoaded] = useState(0);
  /** The part of the record that one is in. */
  const [part, setPart] = useState<string | null>(null);
  const address = pageOfRecord(kind, slug);
  const [store] = useState(
    () =>
      new RecordStore(kind, slug, draft && address ? { draft, origin, address } : null, {
        ...{ call, callForLines, messageOf },
        refusalOf: (error) => (error instanceof ApiError ? error.body : null),
        changed: () => {
          onChanged?.();
          void queries.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'goods-columns' });
        },
        keep: (of, kept) => writeStored(keyOf(of), JSON.stringify(kept)),
        kept: keptDraft,
        renamed: (to) => go({ record: to }),
      }),
  );
  useEffect(() => {
    store.attach({
      show: (html, shown) => frame.current?.post({ kind: 'show', html, shown }),
      reload: () => setLoaded((count) => count + 1),
    });
    void store.open();
  }, [store]);
  useEffect(() => {
    const saves = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key !== 's') return;
      event.preventDefault();
      void store.save();
    };
    window.addEventListener('keydown', saves);
    return () => window.removeEventListener('keydown', saves);
  }, [store]);
  // Others may have saved meanwhile.
  useEffect(() => {
    const back = () => void store.refresh();
    window.addEventListener('focus', back);
    return () => window.removeEventListener('focus', back);
  }, [store]);
  const { answer, record, failed, overlap, saving, saved, page, pageFailed } = useStore(store.state);
  const edited = store.isEdited;
  const called = nameOfRecord(record, slug);
  const alternate = page?.choices.find(({ name }) => page.template.endsWith(`/${name}`))?.label;
  return (
    <>
      <section
        className="record"
        aria-label={`Record of ${called}`}
        onKeyDown={(event) => {
          if (event.key === 'Escape') onClose?.();
        }}
      >
        <header className="record-head">
          <h2>
            {called} <small>{String(record.type ?? '')}</small>
          </h2>
          {goods && (
            <Button
              size="small"
              type="primary"
              title="Save (Ctrl S)"
              disabled={!edited || saving}
              onClick={() => void store.save()}
            >
              Save
            </Button>
          )}
          {edited ? (
            <Button size="small" onClick={() => store.drop()}>
              Drop
            </Button>
          ) : (
            saved !== null && (
              <Button size="small" onClick={() => void store.undo()}>
                Undo
              </Button>
            )
          )}
          {goods && onClose && answer && (
            <RemoveRecord
              kind={kind}
              slug={slug}
              record={record}
              onGone={() => {
                onChanged?.();
                onClose();
              }}
            />
          )}
          {onClose && (
            <Button
              size="small"
              type="text"
              aria-label="Close the record"
              title="Close (Escape)"
              icon={<CloseOutlined aria-hidden />}
              onClick={onClose}
            />
          )}
        </header>
        {failed && <Alert type="error" showIcon title={failed} />}
        {overlap && (
          <Alert
            type="warning"
            showIcon
            title="Someone else changed the same meanwhile. Nothing was saved."
            description={overlap.join(', ')}
            action={
              <span className="record-ask">
                <Button size="small" onClick={() => void store.takeTheirs()}>
                  Take theirs
                </Button>
                <Button size="small" onClick={() => void store.save(true)}>
                  Save mine
                </Button>
              </span>
            }
          />
        )}
        {answer ? (
          <form
            className="record-form"
            onSubmit={(event) => event.preventDefault()}
            onFocus={({ target }) => setPart(target.closest<HTMLElement>('[data-part]')?.dataset.part ?? null)}
          >
            <ConfigProvider componentDisabled={!goods}>
              <RecordForm store={store} answer={answer} record={record} />
            </ConfigProvider>
          </form>
        ) : (
          !failed && <Skeleton active />
        )}
        {source && part && kind !== 'field' && <UsedBy kind={kind} part={part} slug={slug} />}
        <div className="record-foot quiet" role="status">
          {saving
            ? 'Saving'
            : edited
              ? 'Changed, not saved: only the page beside shows it.'
              : saved !== null
                ? record.live === false
                  ? 'Saved. Customers do not see it yet.'
                  : 'Saved, and live now.'
                : ''}
        </div>
      </section>
      {address !== null && (
        <section className="record-page" aria-label="Its page">
          <header className="record-head">
            <span className="quiet">
              {draft ? 'Its page in the draft, as edited' : 'There is no draft to show its page in.'}
              {alternate && ` · ${alternate}`}
              {page && because[page.because] && `, ${because[page.because]}`}
            </span>
            {source && draft && page && (
              <Popover
                trigger="click"
                placement="bottomRight"
                destroyOnHidden
                content={
                  <div className="record-why">
                    {edited && <p className="quiet">As it is saved: what you changed may come to another template.</p>}
                    <Explain draft={draft} address={address} on={null} fresh={String(saved ?? '')} />
                  </div>
                }
              >
                <Button size="small" type="text">
                  Why
                </Button>
              </Popover>
            )}
            {draft && (
              <a href={`/?draft=${draft}&page=${encodeURIComponent(address)}`} title="Open this page on the Bench">
                On the Bench
              </a>
            )}
          </header>
          {pageFailed && <Alert type="warning" showIcon title={pageFailed} />}
          {draft && (
            <PageFrame
              ref={frame}
              origin={origin}
              address={draftAddress(base, address, { framed: tellsFramed() }).slice(origin.length)}
              revision={loaded}
              width={pageWidth}
              stale={pageFailed}
              onStuck={() => {}}
              onSaid={(said) => {
                if (said.kind === 'ready') store.framed({ view: said.view, shown: said.shown, address: said.address });
              }}
            />
          )}
        </section>
      )}
    </>
  );
}
