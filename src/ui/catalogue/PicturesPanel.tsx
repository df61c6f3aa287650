'use client';
import { PictureOutlined } from '@ant-design/icons';
import { useInfiniteQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Input, Popconfirm, Progress, Segmented, Skeleton } from 'antd';
import { useEffect, useRef, useState, type DragEvent } from 'react';
import { useStore } from 'zustand';
import { pictureEndpoints, type ListedPicture, type PictureFilter } from '@/contract/pictures';
import { call, callForLines, messageOf, useAddresses, useLater, useMay } from '@/ui/shared';
import { chosenFiles, droppedFiles, pastedFiles } from './dropped';
import { PictureDetail } from './PictureDetail';
import { Pictures, type NamedFile } from './pictures-store';
import { PicturesCame, TakeTheirPlaces } from './PicturesCame';

const pageSize = 60;

const says: Record<PictureFilter, string> = {
  all: 'All',
  unused: 'Not used',
  copies: 'There twice',
  missing: 'Missing',
};
const empty: Record<PictureFilter, string> = {
  all: 'No picture is called that.',
  unused: 'Every picture is used somewhere.',
  copies: 'No two pictures have the same content.',
  missing: 'Every picture that goods name is here.',
};

/** Pictures of the catalogue: brought in by dropping, pasting or choosing, found, looked at, and taken out. */
export function PicturesPanel() {
  const queries = useQueryClient();
  const { shop } = useAddresses();
  const may = useMay('goods');
  const [pictures] = useState(
    () => new Pictures({ call, callForLines, messageOf, changed: () => void queries.invalidateQueries() }),
  );
  const { busy, failed, came, asked } = useStore(pictures.state);
  const [filter, setFilter] = useState<PictureFilter>('all');
  const [words, setWords] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  const find = useLater(words, 200);
  const list = useInfiniteQuery({
    queryKey: ['pictures', filter, find],
    queryFn: ({ pageParam }) => call(pictureEndpoints.list, { filter, words: find, from: pageParam }),
    initialPageParam: 0,
    getNextPageParam: ({ total }, pages) => (pages.length * pageSize < total ? pages.length * pageSize : undefined),
    placeholderData: (before) => before,
  });
  const [first] = list.data?.pages ?? [];
  const listed = list.data?.pages.flatMap((page) => page.pictures) ?? [];
  const missing = list.data?.pages.flatMap((page) => page.missing) ?? [];
  const take = (files: NamedFile[]) => {
    if (files.length) void pictures.take(files);
  };
  useEffect(() => {
    if (!may) return;
    const paste = (event: ClipboardEvent) => {
      const files = pastedFiles(event.clipboardData, new Date().toISOString());
      if (!files.length) return;
      event.preventDefault();
      void pictures.take(files);
    };
    window.addEventListener('paste', paste);
    return () => window.removeEventListener('paste', paste);
  }, [pictures, may]);
  const drop = may && {
    onDragOver: (event: DragEvent) => {
      event.preventDefault();
      setOver(true);
    },
    onDragLeave: (event: DragEvent) => {
      if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
    },
    onDrop: (event: DragEvent) => {
      event.preventDefault();
      setOver(false);
      void droppedFiles(event.dataTransfer).then(take);
    },
  };
  const choose = may && <Choose onFiles={take} busy={busy !== null} />;
  return (
    <section className="pictures" aria-label="Pictures" data-over={over || undefined} {...drop}>
      <div className="pictures-main">
        <header className="pictures-head">
          <h1>Pictures</h1>
          <Segmented<PictureFilter>
            aria-label="Which pictures"
            value={filter}
            onChange={(next) => {
              setFilter(next);
              setChosen(null);
            }}
            options={(Object.keys(says) as PictureFilter[]).map((value) => ({
              value,
              label: (
                <>
                  {says[value]} <small>{first?.counts[value].toLocaleString('en') ?? ''}</small>
                </>
              ),
            }))}
          />
          <Input
            allowClear
            placeholder="Find by name"
            aria-label="Find by name"
            value={words}
            onChange={({ target }) => setWords(target.value)}
          />
          {choose}
        </header>
        {failed && (
          <Alert type="error" showIcon closable title={failed} role="alert" onClose={() => pictures.dismiss()} />
        )}
        {list.error && <Alert type="error" showIcon title={messageOf(list.error)} />}
        {busy && (
          <div className="import-busy" role="status">
            <Progress
              percent={busy.of ? Math.round((100 * busy.done) / busy.of) : 100}
              status="active"
              showInfo={false}
              size="small"
            />
            <span>{busy.of > 1 ? `Bringing in ${busy.done + 1} of ${busy.of}…` : 'Working…'}</span>
            {busy.of > 1 && (
              <Button size="small" onClick={() => pictures.stop()}>
                Stop
              </Button>
            )}
          </div>
        )}
        {came && !busy && (
          <PicturesCame came={came} onUndo={() => void pictures.undo()} onClose={() => pictures.dismiss()} />
        )}
        {!list.data && !list.error && <Skeleton active />}
        {may && first && first.counts.all === 0 && filter === 'all' && (
          <div className="import-drop">
            <PictureOutlined aria-hidden="true" />
            <p>
              <strong>Drop pictures here</strong>
            </p>
            <p className="quiet">
              Files, a folder, or a ZIP: PNG, JPEG, WebP, AVIF, GIF or SVG, and MP4 films; or paste one. Each is found
              by its name, as the goods have it.
            </p>
            {first.counts.missing > 0 && (
              <p>
                {first.counts.missing.toLocaleString('en')} that goods name {first.counts.missing === 1 ? 'is' : 'are'}{' '}
                missing.
              </p>
            )}
          </div>
        )}
        {first && first.total === 0 && (!may || first.counts.all > 0 || filter !== 'all') && (
          <p className="empty">{empty[filter]}</p>
        )}
        {may && filter === 'unused' && listed.length > 0 && (
          <Popconfirm
            title={`Delete the ${listed.length} pictures that are listed?`}
            description="They are not named by any goods; a theme may still show them. It can be undone."
            okText="Delete them"
            onConfirm={() => void pictures.remove(listed.map(({ path }) => path))}
          >
            <Button className="pictures-delete">Delete {listed.length === 1 ? 'it' : `these ${listed.length}`}…</Button>
          </Popconfirm>
        )}
        <ul className="pictures-grid">
          {listed.map((one) => (
            <Tile
              key={one.path}
              of={one}
              origin={shop}
              chosen={chosen === one.path}
              onChoose={() => setChosen(one.path)}
            />
          ))}
          {missing.map(({ path, uses }) => (
            <li key={path} className="picture-tile is-missing">
              <span className="picture-frame">not here</span>
              <span className="picture-name">{path}</span>
              <small>named {uses === 1 ? 'once' : `${uses.toLocaleString('en')} times`}</small>
            </li>
          ))}
        </ul>
        {list.hasNextPage && (
          <Button loading={list.isFetchingNextPage} onClick={() => void list.fetchNextPage()}>
            Show more
          </Button>
        )}
      </div>
      {chosen !== null && (
        <PictureDetail
          path={chosen}
          origin={shop}
          onClose={() => setChosen(null)}
          onRemove={
            may &&
            ((path) => {
              setChosen(null);
              void pictures.remove([path]);
            })
          }
        />
      )}
      {asked && <TakeTheirPlaces paths={asked.paths} onAnswer={(replace) => void pictures.answer(replace)} />}
    </section>
  );
}

function Tile({
  of: { path, address, type, width, height, uses, copies },
  origin,
  chosen,
  onChoose,
}: {
  of: ListedPicture;
  origin: string;
  chosen: boolean;
  onChoose: () => void;
}) {
  const size = width && height ? `${width} × ${height}` : type.replace(/^\w+\//, '').toUpperCase();
  return (
    <li>
      <button type="button" className="picture-tile" aria-pressed={chosen} title={path} onClick={onChoose}>
        <span className="picture-frame">
          {type.startsWith('image/') ? (
            // eslint-disable-next-line @next/next/no-img-element -- the shop serves it in its size already
            <img src={origin + address} alt="" loading="lazy" />
          ) : (
            'film'
          )}
        </span>
        <span className="picture-name">{path}</span>
        <small>
          {size}
          {copies > 1 && ', there twice'}
          {uses === 0 && ', not used'}
        </small>
      </button>
    </li>
  );
}

/** The ways to choose files: some, or a whole folder. */
function Choose({ onFiles, busy }: { onFiles: (files: NamedFile[]) => void; busy: boolean }) {
  const files = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const taken = (input: HTMLInputElement) => {
    onFiles(chosenFiles(input.files));
    input.value = '';
  };
  return (
    <span className="pictures-choose">
      <span className="quiet">Drop or paste pictures here, or</span>
      <Button type="primary" disabled={busy} onClick={() => files.current?.click()}>
        Bring in pictures
      </Button>
      <Button disabled={busy} onClick={() => folder.current?.click()}>
        A folder
      </Button>
      <input
        ref={files}
        type="file"
        multiple
        accept="image/*,video/mp4,.svg,.zip"
        aria-label="Picture files"
        className="import-input"
        tabIndex={-1}
        onChange={({ target }) => taken(target)}
      />
      <input
        ref={folder}
        type="file"
        aria-label="Folder of pictures"
        className="import-input"
        tabIndex={-1}
        {...{ webkitdirectory: '' }}
        onChange={({ target }) => taken(target)}
      />
    </span>
  );
}
