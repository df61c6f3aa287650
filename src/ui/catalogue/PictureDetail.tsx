'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Popconfirm, Skeleton } from 'antd';
import Link from 'next/link';
import { pictureEndpoints } from '@/contract/pictures';
import { call, messageOf, usePlace } from '@/ui/shared';

const bytes = (size: number): string =>
  size < 1e6 ? `${Math.max(1, Math.round(size / 1e3)).toLocaleString('en')} kB` : `${(size / 1e6).toFixed(1)} MB`;

interface Props {
  path: string;
  origin: string;
  onClose: () => void;
  /** False: whoever looks may not delete it. */
  onRemove: false | ((path: string) => void);
}

/** One picture: large, what it is, what names it, and the way to take it out. */
export function PictureDetail({ path, origin, onClose, onRemove }: Props) {
  const { draft } = usePlace();
  const picture = useQuery({
    queryKey: ['pictures', 'one', path],
    queryFn: () => call(pictureEndpoints.one, { path }),
  });
  const { data } = picture;
  return (
    <aside className="picture-detail" aria-label={path}>
      <header>
        <h2>{path}</h2>
        <Button size="small" type="text" onClick={onClose}>
          Close
        </Button>
      </header>
      {picture.error && <Alert type="error" showIcon title={messageOf(picture.error)} />}
      {!data && !picture.error && <Skeleton active />}
      {data && (
        <>
          <div className="picture-large">
            {data.type.startsWith('image/') ? (
              // eslint-disable-next-line @next/next/no-img-element -- the shop serves it in its size already
              <img src={origin + data.address} alt={`The picture ${path}`} />
            ) : (
              <a href={origin + data.address} target="_blank" rel="noreferrer">
                Play the film
              </a>
            )}
          </div>
          <p>
            {data.type
              .replace(/^\w+\//, '')
              .replace('svg+xml', 'svg')
              .toUpperCase()}
            {data.width && data.height ? `, ${data.width} × ${data.height} pixels` : ''}, {bytes(data.size)}
          </p>
          {data.copies.length > 0 && <p>The same content is in {data.copies.join(', ')}.</p>}
          <h3>Used by</h3>
          {data.usedBy.length === 0 ? (
            <p className="quiet">Nothing in the catalogue names it.</p>
          ) : (
            <ul className="picture-uses">
              {data.usedBy.map(({ kind, slug, name }) => (
                <li key={`${kind} ${slug}`}>
                  <Link href={`/bench?draft=${draft}&page=/${kind}/${slug}`}>{name}</Link>{' '}
                  <small className="quiet">{kind}</small>
                </li>
              ))}
            </ul>
          )}
          {onRemove && (
            <Popconfirm
              title={`Delete ${path}?`}
              description={
                data.usedBy.length
                  ? 'Pages that name it show an empty frame in its place. It can be undone.'
                  : 'It can be undone.'
              }
              okText="Delete"
              onConfirm={() => onRemove(path)}
            >
              <Button danger>Delete…</Button>
            </Popconfirm>
          )}
        </>
      )}
    </aside>
  );
}
