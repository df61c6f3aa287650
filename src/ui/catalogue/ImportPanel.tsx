'use client';
import { InboxOutlined } from '@ant-design/icons';
import { Alert, Button, Progress, Segmented, Select } from 'antd';
import { useRef, useState } from 'react';
import { useStore } from 'zustand';
import { encodings } from '@/contract/goods';
import { Columns } from './Columns';
import { DryRun } from './DryRun';
import type { ImportState, Importing } from './import-store';

const delimiters = [
  { value: ',', label: 'comma' },
  { value: ';', label: 'semicolon' },
  { value: '\t', label: 'tab' },
  { value: '|', label: '|' },
];

const working: Record<NonNullable<ImportState['busy']>['what'], string> = {
  upload: 'Reading the file',
  'dry-run': 'Comparing it with the goods',
  import: 'Importing',
  undo: 'Undoing',
};

const size = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3)).toLocaleString('en')} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

const counted = (records: number): string => (records === 1 ? '1 record' : `${records.toLocaleString('en')} records`);

/** An import, step by step: the file, what its columns are, what it would change, and then the change. */
export function ImportPanel({ importing }: { importing: Importing }) {
  const { busy, failed, look, reading, mode, result, made } = useStore(importing.state);
  const table = look?.table;
  return (
    <>
      <header className="import-head">
        <h1>Import goods</h1>
        {look && (
          <>
            <span>
              <strong>{look.name}</strong> <span className="quiet">{size(look.bytes)}</span>
            </span>
            <Button onClick={() => importing.leave()} disabled={busy?.what === 'import'}>
              Another file
            </Button>
          </>
        )}
      </header>
      {made && (
        <Alert
          type={made.left.length ? 'warning' : 'success'}
          showIcon
          closable
          title={
            made.undo ? `Undone: ${counted(made.records)} as before.` : `Imported: ${counted(made.records)}, live now.`
          }
          description={
            made.left.length > 0 && (
              <ul className="import-left">
                {made.left.slice(0, 20).map((one) => (
                  <li key={one}>{one}.</li>
                ))}
                {made.left.length > 20 && <li>… and {made.left.length - 20} more.</li>}
              </ul>
            )
          }
          action={
            made.undo ? undefined : (
              <Button size="small" onClick={() => void importing.undo(made.id, made.name)}>
                Undo
              </Button>
            )
          }
        />
      )}
      {failed && <Alert type="error" showIcon title={failed} role="alert" />}
      {busy && (
        <div className="import-busy" role="status">
          <Progress percent={100} status="active" showInfo={false} size="small" />
          <span>
            {working[busy.what]}
            {busy.done > 0 && `: ${busy.done.toLocaleString('en')} so far`}…
          </span>
          {busy.what !== 'upload' && (
            <Button size="small" onClick={() => importing.stop()}>
              Stop
            </Button>
          )}
        </div>
      )}
      {!look && busy?.what !== 'upload' && <DropFile onFile={(file) => void importing.choose(file)} />}
      {look && (
        <>
          <div className="import-settings">
            <Segmented<'merge' | 'replace'>
              value={mode}
              onChange={(next) => importing.setMode(next)}
              options={[
                { value: 'merge', label: 'Add and change only' },
                { value: 'replace', label: 'Replace all goods' },
              ]}
            />
            {table && (
              <>
                <label>
                  Encoding
                  <Select
                    size="small"
                    value={reading.encoding ?? table.encoding}
                    options={encodings.map((value) => ({ value, label: value }))}
                    onChange={(encoding) => void importing.read({ encoding })}
                    popupMatchSelectWidth={false}
                  />
                </label>
                <label>
                  Between cells
                  <Select
                    size="small"
                    value={reading.delimiter ?? table.delimiter}
                    options={delimiters}
                    onChange={(delimiter) => void importing.read({ delimiter })}
                    popupMatchSelectWidth={false}
                  />
                </label>
                <label>
                  Decimals after
                  <Select
                    size="small"
                    value={reading.mark ?? table.mark}
                    options={[
                      { value: ',', label: 'comma: 12,50' },
                      { value: '.', label: 'point: 12.50' },
                    ]}
                    onChange={(mark) => void importing.read({ mark })}
                    popupMatchSelectWidth={false}
                  />
                </label>
              </>
            )}
          </div>
          {table && !table.sure && (
            <Alert
              type="warning"
              showIcon
              title={`The file does not say how it is encoded, and is not UTF-8: it is read as ${reading.encoding ?? table.encoding}. Check accents and signs below.`}
            />
          )}
          {table && !result && <Columns importing={importing} />}
          {result ? (
            <DryRun importing={importing} upload={look.upload} result={result} />
          ) : (
            <div className="import-go">
              <Button
                type="primary"
                size="large"
                loading={busy?.what === 'dry-run'}
                disabled={busy !== null}
                onClick={() => void importing.dryRun()}
              >
                Show what it would change
              </Button>
              <span className="quiet">A dry run: nothing is imported yet.</span>
            </div>
          )}
        </>
      )}
    </>
  );
}

/** Where a file is dropped or chosen. */
function DropFile({ onFile }: { onFile: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const take = (files: FileList | null) => {
    const [file] = files ?? [];
    if (file) onFile(file);
  };
  return (
    <div
      className="import-drop"
      data-over={over || undefined}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        take(event.dataTransfer.files);
      }}
    >
      <InboxOutlined aria-hidden="true" />
      <p>
        <strong>Drop a file of goods here</strong>
      </p>
      <p className="quiet">
        A CSV of any shop, in any language, with a row for each product or variant; or JSON: a catalogue file, or
        products in schema.org’s terms (JSON-LD). You see what it would change before anything happens, and can undo it
        afterwards.
      </p>
      <Button type="primary" onClick={() => input.current?.click()}>
        Choose a file
      </Button>
      <input
        ref={input}
        type="file"
        accept=".csv,.tsv,.txt,.json,.jsonld"
        aria-label="File of goods"
        className="import-input"
        tabIndex={-1}
        onChange={({ target }) => {
          take(target.files);
          target.value = '';
        }}
      />
    </div>
  );
}
