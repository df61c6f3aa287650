'use client';
import { addressOf } from '@/contract/endpoint';
import { useQuery } from '@tanstack/react-query';
import { Alert, Skeleton } from 'antd';
import dynamic from 'next/dynamic';
import { historyEndpoints } from '@/contract/history';
import { call, messageOf } from '@/ui/shared';

/** The editor comes with the first difference of texts, not with the screen. */
const Texts = dynamic(() => import('./DifferenceTexts').then((one) => one.DifferenceTexts), { ssr: false });

interface Props {
  path: string;
  /** Hashes of the two contents; null: there is none. */
  a: string | null;
  b: string | null;
  /** Beside each other, each with its name; else as one text with what changed in it. */
  beside?: [string, string];
}

const picture = /\.(?:png|jpe?g|webp|gif|avif|svg)$/i;

/** A content of a path by its hash; it never changes. */
export function useContent(path: string, hash: string | null) {
  return useQuery({
    queryKey: ['content', path, hash],
    queryFn: () => (hash === null ? null : call(historyEndpoints.content, { path, hash })),
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
          <img key={at} src={addressOf(historyEndpoints.bytes, { path, hash })} alt={at ? 'After' : 'Before'} />
        ),
      )}
    </div>
  );
}
