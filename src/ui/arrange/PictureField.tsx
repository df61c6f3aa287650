'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Select } from 'antd';
import { useState, type DragEvent } from 'react';
import ReactCrop, { centerCrop, makeAspectCrop, type PercentCrop } from 'react-image-crop';
import 'react-image-crop/dist/ReactCrop.css';
import { pictureEndpoints } from '@/contract/pictures';
import { readPicture, writePicture, type PicturePart } from '@/core/catalogue';
import type { InputEntry } from '@/core/theme';
import { bringPictures, droppedFiles } from '@/ui/catalogue';
import { call, callForLines, messageOf, useAddresses } from '@/ui/shared';

/** Where pictures are put that are dropped here. */
const folder = 'arranged';

interface Props {
  id: string;
  label: string;
  value: InputEntry | undefined;
  /** The shape that the piece shows it in, as width by height; null: as it is. */
  shape: number | null;
  onChange: (value: InputEntry | undefined) => void;
}

/** A picture of the shop: found by the name of its file, or dropped here; and the part of it that is shown. */
export function PictureField({ id, label, value, shape, onChange }: Props) {
  const [words, setWords] = useState('');
  const [cutting, setCutting] = useState(false);
  const [over, setOver] = useState(false);
  const [busy, setBusy] = useState(false);
  const [left, setLeft] = useState<string[]>([]);
  const { path, part } = readPicture(typeof value === 'string' ? value : '');
  const { data, isFetching } = useQuery({
    queryKey: ['pictures to pick', words],
    queryFn: () => call(pictureEndpoints.list, { words }),
  });
  const take = async (files: { name: string; file: Blob }[]) => {
    if (!files.length) return;
    setBusy(true);
    const came = await bringPictures({ callForLines, messageOf }, folder, files.slice(0, 1));
    setBusy(false);
    setLeft(came.left);
    const [first] = came.paths;
    if (first !== undefined) onChange(first);
  };
  const drop = (event: DragEvent) => {
    if (!event.dataTransfer.types.includes('Files')) return;
    event.preventDefault();
    event.stopPropagation();
    setOver(false);
    void droppedFiles(event.dataTransfer).then(take);
  };
  const canCut = path !== '' && !/\.svg$/i.test(path);
  return (
    <div
      className="piece-image"
      data-over={over || undefined}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('Files')) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <span className="piece-image-row">
        <Select
          id={id}
          size="small"
          aria-label={label}
          allowClear
          showSearch={{ filterOption: false, onSearch: setWords }}
          placeholder="Find by name, or drop one here"
          value={path || null}
          options={(data?.pictures ?? []).map(({ path: one, width, height }) => ({
            value: one,
            label: width && height ? `${one}  ${width} × ${height}` : one,
          }))}
          notFoundContent={isFetching ? 'Looking…' : 'No picture is called so'}
          onChange={(next: string | null) => onChange(next ?? undefined)}
        />
        <label className="piece-image-choose">
          {busy ? 'coming…' : 'From a file…'}
          <input
            type="file"
            accept="image/*"
            aria-label={`${label}: from a file`}
            onChange={({ target }) => {
              void take([...(target.files ?? [])].map((file) => ({ name: file.name, file })));
              target.value = '';
            }}
          />
        </label>
      </span>
      {left.length > 0 && (
        <Alert
          type="warning"
          showIcon
          title="Not taken"
          description={left.join(' ')}
          closable={{ onClose: () => setLeft([]) }}
        />
      )}
      {canCut && (
        <span className="piece-image-row">
          <Button size="small" aria-expanded={cutting} onClick={() => setCutting(!cutting)}>
            {cutting ? 'Done' : 'Show a part of it…'}
          </Button>
          {part && (
            <>
              <span className="quiet">{inWords(part)}</span>
              <Button size="small" type="text" onClick={() => onChange(path)}>
                Show all of it
              </Button>
            </>
          )}
        </span>
      )}
      {canCut && cutting && (
        <PartOf
          label={label}
          path={path}
          part={part}
          shape={shape}
          onPart={(next) => onChange(writePicture(path, next))}
        />
      )}
    </div>
  );
}

const inWords = ([x, y, width, height]: PicturePart): string =>
  `${Math.round(width)} % of its width from ${Math.round(x)} %, ${Math.round(height)} % of its height from ${Math.round(y)} %`;

const whole = { unit: '%', x: 0, y: 0, width: 100, height: 100 } as const;

/** The largest part of that shape, from the middle: what a piece shows of a picture that nobody cut. */
const middle = (shape: number, { naturalWidth, naturalHeight }: HTMLImageElement): PercentCrop =>
  centerCrop(
    makeAspectCrop(
      naturalWidth / naturalHeight > shape ? { unit: '%', height: 100 } : { unit: '%', width: 100 },
      shape,
      naturalWidth,
      naturalHeight,
    ),
    naturalWidth,
    naturalHeight,
  );

/** The whole picture, with the part that is shown in a frame of the shape that the piece has: drawn with the mouse, moved and sized with the arrows. */
function PartOf({
  label,
  path,
  part,
  shape,
  onPart,
}: {
  label: string;
  path: string;
  part: PicturePart | null;
  shape: number | null;
  onPart: (part: PicturePart) => void;
}) {
  const { shop } = useAddresses();
  const [uncut, setUncut] = useState<PercentCrop>(whole);
  const crop = part ? { unit: '%' as const, x: part[0], y: part[1], width: part[2], height: part[3] } : uncut;
  return (
    <div role="group" aria-label={`Part of ${label} that is shown`}>
      <ReactCrop
        crop={crop}
        keepSelection
        {...(shape === null ? {} : { aspect: shape })}
        minWidth={8}
        minHeight={8}
        ariaLabels={{
          cropArea: 'The part that is shown: arrows move it',
          nwDragHandle: 'Its corner at the top left: arrows size it',
          nDragHandle: 'Its top edge: arrows size it',
          neDragHandle: 'Its corner at the top right: arrows size it',
          eDragHandle: 'Its right edge: arrows size it',
          seDragHandle: 'Its corner at the bottom right: arrows size it',
          sDragHandle: 'Its bottom edge: arrows size it',
          swDragHandle: 'Its corner at the bottom left: arrows size it',
          wDragHandle: 'Its left edge: arrows size it',
        }}
        onChange={(_, { x, y, width, height }) => onPart([x, y, width, height])}
      >
        {/* eslint-disable-next-line @next/next/no-img-element -- its own pixels are what is cut */}
        <img
          src={`${shop}/media/${path.split('/').map(encodeURIComponent).join('/')}`}
          alt={path}
          onLoad={({ currentTarget }) => shape !== null && setUncut(middle(shape, currentTarget))}
        />
      </ReactCrop>
    </div>
  );
}
