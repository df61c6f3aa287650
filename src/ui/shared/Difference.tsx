'use client';
import { MergeView, unifiedMergeView } from '@codemirror/merge';
import { EditorState, type Extension } from '@codemirror/state';
import { EditorView, lineNumbers } from '@codemirror/view';
import { useQuery } from '@tanstack/react-query';
import { Alert, Skeleton } from 'antd';
import { useEffect, useRef } from 'react';
import type { ContentAnswer } from '@/contract/theme';
import { languageOf } from '../bench/source/colours';
import { api, messageOf } from './api';

interface Props {
  path: string;
  /** Hashes of the two contents; null: there is none. */
  a: string | null;
  b: string | null;
  /** Beside each other, each with its name; else as one text with what changed in it. */
  beside?: [string, string];
}

const asked = (path: string, hash: string): string => `/api/content?${new URLSearchParams({ path, hash })}`;
const picture = /\.(?:png|jpe?g|webp|gif|avif|svg)$/i;

/** A content of a path by its hash; it never changes. */
export function useContent(path: string, hash: string | null) {
  return useQuery({
    queryKey: ['content', path, hash],
    queryFn: () => (hash === null ? null : api<ContentAnswer>('GET', asked(path, hash))),
    staleTime: Infinity,
  });
}

/** What differs between two contents of a file: texts by line, pictures beside each other. */
export function Difference({ path, a, b, beside }: Props) {
  const [one, other] = [useContent(path, a), useContent(path, b)];
  const failed = one.error ?? other.error;
  if (failed) return <Alert type="error" showIcon title={messageOf(failed)} />;
  if (one.data === undefined || other.data === undefined) return <Skeleton active paragraph={{ rows: 3 }} />;
  if (picture.test(path)) return <Pictures path={path} a={a} b={b} />;
  if (one.data?.text === null || other.data?.text === null)
    return (
      <p className="quiet">
        No text: {one.data ? `${one.data.size} bytes` : 'not there'} before,{' '}
        {other.data ? `${other.data.size} bytes` : 'not there'} after.
      </p>
    );
  const texts: [string, string] = [one.data?.text ?? '', other.data?.text ?? ''];
  return beside ? (
    <>
      <div className="merge-heads">
        <span>{beside[0]}</span>
        <span>{beside[1]}</span>
      </div>
      <Texts key={`${a} ${b}`} path={path} texts={texts} beside />
    </>
  ) : (
    <Texts key={`${a} ${b}`} path={path} texts={texts} beside={false} />
  );
}

function Pictures({ path, a, b }: { path: string; a: string | null; b: string | null }) {
  return (
    <div className="picture-pair">
      {[a, b].map((hash, at) =>
        hash === null ? (
          <p key={at} className="quiet">
            {at ? 'Gone' : 'Not there before'}
          </p>
        ) : (
          // eslint-disable-next-line @next/next/no-img-element -- bytes of a theme, by hash
          <img key={at} src={`${asked(path, hash)}&raw=1`} alt={at ? 'After' : 'Before'} />
        ),
      )}
    </div>
  );
}

function Texts({ path, texts, beside }: { path: string; texts: [string, string]; beside: boolean }) {
  const room = useRef<HTMLDivElement>(null);
  const [before, after] = texts;
  useEffect(() => {
    if (!room.current) return;
    const label = (said: string) => EditorView.contentAttributes.of({ 'aria-label': said, tabindex: '0' });
    const shared: Extension[] = [
      lineNumbers(),
      EditorView.lineWrapping,
      languageOf(path),
      EditorState.readOnly.of(true),
      EditorView.editable.of(false),
    ];
    const collapse = { margin: 3, minSize: 8 };
    const made = beside
      ? new MergeView({
          parent: room.current,
          a: { doc: before, extensions: [...shared, label(`${path} before`)] },
          b: { doc: after, extensions: [...shared, label(`${path} after`)] },
          collapseUnchanged: collapse,
        })
      : new EditorView({
          parent: room.current,
          doc: after,
          extensions: [
            ...shared,
            label(`What changed in ${path}`),
            unifiedMergeView({ original: before, mergeControls: false, collapseUnchanged: collapse }),
          ],
        });
    return () => made.destroy();
  }, [path, before, after, beside]);
  return <div className={`difference source${beside ? ' merge-room' : ''}`} ref={room} />;
}
