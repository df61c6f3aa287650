'use client';
import { ArrowLeftOutlined, ArrowRightOutlined, DeleteOutlined, PlusOutlined } from '@ant-design/icons';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Input, Select } from 'antd';
import { useState, type DragEvent } from 'react';
import { pictureEndpoints } from '@/contract/pictures';
import { mediaMoved, mediaOfValue, mediaShows, withMedia, type Shown, type WholeProduct } from '@/core/exchange';
import { call, useAddresses } from '@/ui/shared';
import { droppedFiles } from '../dropped';
import type { NamedFile } from '../pictures-store';
import { LinkField } from './fields';

type Media = WholeProduct['media'];

interface Props {
  media: Media;
  /** Options whose values pictures may show; of what has none, pictures are one list. */
  options?: WholeProduct['options'];
  locales: readonly string[];
  onChange: (media: Media) => void;
  /** Brings files in; gives the paths that they stand under, and why others could not be taken. */
  onFiles: (files: readonly NamedFile[]) => Promise<{ paths: string[]; left: string[] }>;
}

/** A film by its shared link, put with the pictures. */
function AddFilm({ onAdd }: { onAdd: (link: string) => void }) {
  const [link, setLink] = useState('');
  const fits = /^(?:https?:\/\/|\/)\S+$/.test(link.trim());
  const add = () => {
    if (!fits) return;
    onAdd(link.trim());
    setLink('');
  };
  return (
    <div className="record-film" onKeyDown={(event) => event.key === 'Enter' && add()}>
      <LinkField label="Shared link of a film" placeholder="Shared link of a film" value={link} onChange={setLink} />
      <Button size="small" icon={<PlusOutlined aria-hidden />} disabled={!fits} onClick={add}>
        Add the film
      </Button>
    </div>
  );
}

/** A picture that is dragged from one value to another, by its place in the list. */
const dragged = 'application/x-last-media';

/** Pictures and films of a record; of a product by the option value that they show: dropped there, ordered, described. */
export function RecordPictures({ media, options = [], locales, onChange, onFiles }: Props) {
  const told = options.find(({ values }) => values.some(({ colour }) => colour)) ?? options[0];
  const [by, setBy] = useState(told?.slug ?? '');
  const [chosen, setChosen] = useState<number | null>(null);
  const [left, setLeft] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  const option = options.find(({ slug }) => slug === by);
  const groups: { value: string | null; name: string; colour: string }[] = [
    ...(option?.values ?? []).map(({ slug, name, colour }) => ({ value: slug, name, colour })),
    { value: null, name: option ? `Any ${option.name.toLowerCase()}` : 'All pictures', colour: '' },
  ];
  const take = async (files: readonly NamedFile[], shown: Shown) => {
    if (!files.length) return;
    setBusy(true);
    const came = await onFiles(files);
    setBusy(false);
    setLeft(came.left);
    if (came.paths.length)
      onChange(
        withMedia(
          media,
          came.paths.map((path) => ({ kind: /\.mp4$/i.test(path) ? 'video' : 'image', path })),
          shown,
        ),
      );
  };
  const one = chosen === null ? undefined : media[chosen];
  const here = (value: string | null): Shown => (value === null ? null : [by, value]);
  const valueOf = ({ shows }: Media[number]) => shows.find(([other]) => other === by)?.[1] ?? null;
  return (
    <>
      <div className="record-media-head">
        <h3>{option ? 'Pictures, by what they show' : 'Pictures'}</h3>
        {options.length > 1 && (
          <Select
            size="small"
            aria-label="Pictures by"
            value={by}
            options={options.map(({ slug, name }) => ({ value: slug, label: name }))}
            onChange={setBy}
          />
        )}
      </div>
      <ul className="record-media">
        {groups.map(({ value, name, colour }) => (
          <Group
            key={value ?? ''}
            name={name}
            colour={colour}
            busy={busy}
            onFiles={(files) => void take(files, here(value))}
            onMoved={(at) => onChange(mediaShows(media, at, by, value))}
          >
            {mediaOfValue(media, by, value).map((at) => (
              <Thumb
                key={at}
                at={at}
                of={media[at] as Media[number]}
                chosen={chosen === at}
                onChoose={() => setChosen(chosen === at ? null : at)}
              />
            ))}
          </Group>
        ))}
      </ul>
      <AddFilm onAdd={(path) => onChange(withMedia(media, [{ kind: 'embed', path }], null))} />
      {left.length > 0 && (
        <Alert
          type="warning"
          showIcon
          title="Not taken"
          description={left.join(' ')}
          closable={{ onClose: () => setLeft([]) }}
        />
      )}
      {one && chosen !== null && (
        <div className="record-medium" role="group" aria-label={one.path}>
          <strong>{one.path}</strong>
          {locales.map((locale, at) => (
            <Input
              key={locale}
              size="small"
              lang={locale}
              aria-label={`What the picture shows, in ${locale}`}
              placeholder={at ? `In ${locale}` : 'What it shows, for those who cannot see it'}
              value={at ? (one.texts[locale]?.alt ?? '') : one.alt}
              onChange={({ target: { value } }) =>
                onChange(
                  media.map((other, place) => {
                    if (place !== chosen) return other;
                    if (!at) return { ...other, alt: value };
                    const { [locale]: _, ...texts } = other.texts;
                    return { ...other, texts: value ? { ...texts, [locale]: { alt: value } } : texts };
                  }),
                )
              }
            />
          ))}
          <span className="record-medium-does">
            {option && (
              <Select
                size="small"
                aria-label="It shows"
                value={valueOf(one) ?? ''}
                options={groups.map(({ value, name }) => ({ value: value ?? '', label: name }))}
                onChange={(value) => onChange(mediaShows(media, chosen, by, value || null))}
              />
            )}
            {([-1, 1] as const).map((step) => (
              <Button
                key={step}
                size="small"
                type="text"
                aria-label={step < 0 ? 'Earlier' : 'Later'}
                icon={step < 0 ? <ArrowLeftOutlined aria-hidden /> : <ArrowRightOutlined aria-hidden />}
                onClick={() => {
                  const next = mediaMoved(media, chosen, by, valueOf(one), step);
                  onChange(next);
                  setChosen(next.indexOf(one));
                }}
              />
            ))}
            <Button
              size="small"
              type="text"
              aria-label={`Remove ${one.path}`}
              icon={<DeleteOutlined aria-hidden />}
              onClick={() => {
                setChosen(null);
                onChange(media.filter((_, place) => place !== chosen));
              }}
            />
          </span>
        </div>
      )}
    </>
  );
}

interface GroupProps {
  name: string;
  colour: string;
  busy: boolean;
  onFiles: (files: NamedFile[]) => void;
  /** A picture was dragged here. */
  onMoved: (at: number) => void;
  children: React.ReactNode[];
}

/** The pictures of one value, and the place to drop more. */
function Group({ name, colour, busy, onFiles, onMoved, children }: GroupProps) {
  const [over, setOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const at = event.dataTransfer.getData(dragged);
    if (at) onMoved(Number(at));
    else void droppedFiles(event.dataTransfer).then(onFiles);
  };
  return (
    <li
      aria-label={`Pictures of ${name}`}
      data-over={over || undefined}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) setOver(false);
      }}
      onDrop={drop}
    >
      <span className="record-value">
        {colour && <i style={{ background: colour }} />}
        {name}
      </span>
      <div className="record-thumbs">
        {children}
        <label
          className="record-drop"
          data-many={children.length > 0 || undefined}
          title={`Drop pictures of ${name} here, or choose them`}
        >
          {children.length > 0 ? <PlusOutlined aria-hidden /> : busy ? 'coming…' : 'drop here'}
          <input
            type="file"
            multiple
            accept="image/*,video/mp4"
            aria-label={`Add pictures of ${name}`}
            onChange={({ target }) => {
              onFiles([...(target.files ?? [])].map((file) => ({ name: file.name, file })));
              target.value = '';
            }}
          />
        </label>
      </div>
    </li>
  );
}

function Thumb({ of, at, chosen, onChoose }: { of: Media[number]; at: number; chosen: boolean; onChoose: () => void }) {
  const { shop } = useAddresses();
  const { path, alt, kind } = of;
  const picture = useQuery({
    queryKey: ['pictures', 'one', path],
    queryFn: () => call(pictureEndpoints.one, { path }),
    enabled: kind !== 'embed',
    retry: false,
  });
  return (
    <button
      type="button"
      className="record-thumb"
      aria-pressed={chosen}
      aria-label={alt || path}
      title={path}
      draggable
      onDragStart={(event) => event.dataTransfer.setData(dragged, String(at))}
      onClick={onChoose}
    >
      {picture.data?.type.startsWith('image/') ? (
        // eslint-disable-next-line @next/next/no-img-element -- the shop serves it in its size already
        <img src={shop + picture.data.address} alt="" />
      ) : (
        <span>{kind === 'image' ? (picture.isError ? 'missing' : '') : 'film'}</span>
      )}
    </button>
  );
}
