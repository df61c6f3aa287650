'use client';
import { PlusOutlined } from '@ant-design/icons';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Input, Skeleton } from 'antd';
import { useState } from 'react';
import { recordEndpoints, type ListedItem, type ListedKindName } from '@/contract/records';
import { call, messageOf, usePlace, useMay } from '@/ui/shared';
import { viewOfKind } from '../kinds';
import { NewRecord } from '../record/NewRecord';
import { RecordPanel } from '../record/RecordPanel';
import { OutlineTree } from './OutlineTree';
import type { OutlinePlace } from './outline';

/** Records of a kind that are few: all of them, categories as a tree, and one with its page. */
export function KindPanel({ kind }: { kind: ListedKindName }) {
  const goods = useMay('goods');
  const queries = useQueryClient();
  const { get, go } = usePlace();
  const [words, setWords] = useState('');
  const [adding, setAdding] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  const list = useQuery({
    queryKey: ['goods-list', kind],
    queryFn: () => call(recordEndpoints.list, { kind }),
  });
  const record = get('record');
  const { label, one, counted } = viewOfKind(kind);
  if (list.error) return <Alert type="error" showIcon title={messageOf(list.error)} />;
  if (!list.data) return <Skeleton active className="goods-waiting" />;
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = list.data.filter(({ name, slug }) =>
    wanted.every((word) => `${name} ${slug}`.toLowerCase().includes(word)),
  );
  const open = (slug: string | null) => go({ record: slug });
  const move = async (slug: string, to: OutlinePlace) => {
    const was = list.data.find((item) => item.slug === slug);
    if (!was) return;
    const siblings = list.data.filter(({ parent }) => parent === was.parent);
    const before = { parent: was.parent, position: siblings.indexOf(was) };
    const after = { parent: to.parent, position: to.place };
    try {
      setFailed(null);
      const title = `Move ${was.name}${to.parent === was.parent ? '' : ` below ${to.parent ?? 'the topmost'}`}`;
      await call(recordEndpoints.save, {}, { changes: [{ kind, slug, before, after }], title });
    } catch (error) {
      setFailed(messageOf(error));
    }
    await queries.invalidateQueries();
  };
  const count = (item: ListedItem) => (
    <>
      <span className="kind-name">{item.name}</span>
      {item.note && <small className="quiet kind-note">{item.note}</small>}
      {item.count !== null && (
        <small className="quiet kind-count" title={counted}>
          {item.count.toLocaleString('en')} <span className="unseen">{counted}</span>
        </small>
      )}
    </>
  );
  return (
    <div className="goods-products">
      <section className="kind-side" aria-label={label}>
        <h1 className="unseen">{label}</h1>
        <div className="kind-tools">
          <Input
            allowClear
            aria-label={`Find ${label.toLowerCase()}`}
            placeholder={`Find ${label.toLowerCase()}`}
            value={words}
            onChange={({ target }) => setWords(target.value)}
          />
          {goods && (
            <Button icon={<PlusOutlined aria-hidden />} onClick={() => setAdding(true)}>
              New
            </Button>
          )}
        </div>
        {failed && <Alert type="error" showIcon title={failed} closable={{ onClose: () => setFailed(null) }} />}
        {kind === 'category' && !wanted.length && list.data.length > 0 ? (
          <>
            <OutlineTree
              label={label}
              nodes={list.data.map((item) => ({ key: item.slug, parent: item.parent, item }))}
              chosen={record}
              onChoose={open}
              onMove={(slug, to) => void (goods && move(slug, to))}
            >
              {({ item }) => count(item)}
            </OutlineTree>
            <p className="quiet kind-help">Drag to move, or Alt and the arrow keys. Each move is live at once.</p>
          </>
        ) : (
          <ul className="kind-list">
            {found.map((item) => (
              <li key={item.slug}>
                <button type="button" aria-current={item.slug === record || undefined} onClick={() => open(item.slug)}>
                  {count(item)}
                </button>
              </li>
            ))}
          </ul>
        )}
        {!found.length && (
          <p className="quiet kind-help">
            {list.data.length ? `None is called “${words}”.` : `There is no ${one} yet. “New” makes the first.`}
          </p>
        )}
      </section>
      {record !== null ? (
        <RecordPanel key={`${kind} ${record}`} kind={kind} slug={record} onClose={() => open(null)} />
      ) : (
        <p className="kind-none quiet">Choose a {one} to see and change it, beside its page.</p>
      )}
      <NewRecord kind={kind} open={adding} onClose={() => setAdding(false)} />
    </div>
  );
}
