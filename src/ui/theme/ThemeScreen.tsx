'use client';
import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Input, Segmented, Select, Skeleton } from 'antd';
import { useMemo, useRef, useState, type DragEvent, type ReactNode } from 'react';
import { draftEndpoints, type ChangesAnswer } from '@/contract/drafts';
import { layerEndpoints, type LayersAnswer, type VersionItem } from '@/contract/layers';
import { call, messageOf, usePlace } from '@/ui/shared';
import { FilePanel } from './FilePanel';
import { FileTable } from './FileTable';
import { filterOf, isDrifted, isOwn, type Filter, type FirstSight } from './firstSight';
import { NewFile } from './NewFile';
import { Stack } from './Stack';
import { UpdateDialog } from './UpdateDialog';
import { useBringVersion } from './useBringVersion';
import { useDrop } from './useDrop';

type Row = LayersAnswer['rows'][number];
/** Where files may be put; '': each where its kind belongs. */
const folders = ['', 'pieces', 'assets/icons', 'assets/img', 'assets/css', 'assets/js', 'assets/fonts', 'words'];

const filters: { value: Filter; label: string }[] = [
  { value: 'all', label: 'All' },
  { value: 'own', label: 'The shop’s own' },
  { value: 'drifted', label: 'Drifted' },
  { value: 'problems', label: 'With problems' },
];

/** Every file as a row, every layer as a column: where it is, which serves, what is amended, what has drifted. */
export function ThemeScreen({ known, switcher }: { known: FirstSight | null; switcher: ReactNode }) {
  const { draft, get, go } = usePlace();
  const [search, setSearch] = useState('');
  const [making, setMaking] = useState(false);
  const [over, setOver] = useState(false);
  const [into, setInto] = useState('');
  const picker = useRef<HTMLInputElement>(null);
  const [updating, setUpdating] = useState<VersionItem | null>(null);
  const within = useRef(0);
  const filter = filterOf(get('show'));
  const chosen = get('file');
  const table = useQuery({
    queryKey: ['layers', draft],
    queryFn: () => call(layerEndpoints.all, { draft }),
    placeholderData: known?.table,
  });
  const checked = useQuery({
    queryKey: ['changes', draft],
    queryFn: () => call(draftEndpoints.changes, { draft }),
  });
  const problems = useMemo(() => {
    const byFile = new Map<string, ChangesAnswer['problems']>();
    for (const one of checked.data?.problems ?? [])
      if (one.severity !== 'note') byFile.set(one.file, [...(byFile.get(one.file) ?? []), one]);
    return byFile;
  }, [checked.data]);
  const wanted = useMemo(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    const listed: Record<Filter, (row: Row) => boolean> = {
      all: () => true,
      own: isOwn,
      drifted: isDrifted,
      problems: ({ path }) => problems.has(path),
    };
    return (table.data?.rows ?? []).filter(
      (row) => listed[filter](row) && words.every((word) => row.path.toLowerCase().includes(word)),
    );
  }, [table.data, filter, search, problems]);
  const row = table.data?.rows.find((one) => one.path === chosen) ?? null;

  const dropping = useDrop(draft, ([first = null]) => go({ file: first }));
  const version = useBringVersion(setUpdating);
  /** Files that come: a ZIP by itself is a version of a base or add-on, all else goes into the shop's layer. */
  const take = (files: File[]) => {
    const [first] = files;
    if (files.length === 1 && first && /\.zip$/i.test(first.name)) version.bring(first);
    else dropping.drop(files, into);
  };
  const folder = chosen?.includes('/') ? chosen.slice(0, chosen.lastIndexOf('/')) : '';
  const dragging = (event: DragEvent, by: number) => {
    if (!event.dataTransfer.types.includes('Files')) return;
    event.preventDefault();
    within.current = Math.max(0, within.current + by);
    setOver(within.current > 0);
  };
  const whole = table.isPlaceholderData ? null : table.data;
  const own = whole ? whole.rows.filter(isOwn).length : (known?.own ?? 0);
  const drifted = whole ? whole.rows.filter(isDrifted).length : (known?.drifted ?? 0);

  return (
    <main
      className="theme"
      data-over={over}
      onDragEnter={(event) => dragging(event, 1)}
      onDragLeave={(event) => dragging(event, -1)}
      onDragOver={(event) => dragging(event, 0)}
      onDrop={(event) => {
        event.preventDefault();
        within.current = 0;
        setOver(false);
        if (event.dataTransfer.files.length) take([...event.dataTransfer.files]);
      }}
    >
      <section className="theme-files" aria-label="Files">
        <div className="theme-tools">
          {switcher}
          <Input
            allowClear
            aria-label="Find a file"
            placeholder="Find a file"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
          />
          <Segmented<Filter>
            aria-label="Which files"
            options={filters.map(({ value, label }) => ({
              value,
              label:
                value === 'own' ? `${label} ${own}` : value === 'drifted' && drifted ? `${label} ${drifted}` : label,
            }))}
            value={filter}
            onChange={(value) => go({ show: value === 'all' ? null : value }, true)}
          />
          <Button onClick={() => setMaking(true)}>New file</Button>
        </div>
        {table.isError && <Alert type="error" showIcon title={messageOf(table.error)} />}
        {(dropping.error ?? version.error) && (
          <Alert type="error" showIcon closable title={messageOf(dropping.error ?? version.error)} />
        )}
        {table.isLoading && <Skeleton active />}
        {table.data && (
          <FileTable
            layers={table.data.layers}
            rows={wanted}
            problems={problems}
            chosen={chosen}
            addressOf={(path) =>
              `?${new URLSearchParams({ draft, ...(filter === 'all' ? {} : { show: filter }), file: path })}`
            }
            onChoose={(path) => go({ file: path })}
          />
        )}
        {whole && wanted.length === 0 && (
          <p className="empty">
            {search
              ? `No file’s name holds “${search}” here.`
              : filter === 'drifted'
                ? 'Nothing has drifted: all of the shop’s copies are of what is below them now.'
                : filter === 'problems'
                  ? 'No file has a problem.'
                  : 'The shop has no file of its own yet. Point at something on the Bench and change it, or drop files in here.'}
          </p>
        )}
        <div className="drop-note">
          <span className="quiet">
            {over
              ? 'Let go: the files come into the shop’s layer.'
              : 'Drop files in: pictures, fonts, style sheets, scripts, icons, templates; or a ZIP of a base or add-on.'}
          </span>
          <Select
            size="small"
            aria-label="Where files go"
            value={into}
            options={folders.map((value) => ({ value, label: value || 'Where their kind belongs' }))}
            onChange={setInto}
            popupMatchSelectWidth={false}
          />
          <Button size="small" loading={dropping.pending} onClick={() => picker.current?.click()}>
            Choose files…
          </Button>
          <input
            ref={picker}
            type="file"
            multiple
            hidden
            aria-label="Files for the shop’s layer"
            onChange={(event) => {
              const { files } = event.target;
              if (files?.length) take([...files]);
              event.target.value = '';
            }}
          />
        </div>
      </section>
      <section className="theme-side" aria-label="Details">
        {row && table.data ? (
          <FilePanel
            key={row.path}
            draft={draft}
            layers={table.data.layers}
            row={row}
            problems={problems.get(row.path) ?? []}
            onGone={() => go({ file: null })}
            onMoved={(path) => go({ file: path })}
          />
        ) : (
          table.data && <Stack draft={draft} table={table.data} />
        )}
      </section>
      {version.question}
      {dropping.question}
      {updating && <UpdateDialog draft={draft} to={updating} onClose={() => setUpdating(null)} />}
      {making && table.data && (
        <NewFile draft={draft} table={table.data} onClose={() => setMaking(false)} folder={folder} />
      )}
    </main>
  );
}
