'use client';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Modal, Progress, Upload } from 'antd';
import { useState } from 'react';
import { phraseEndpoints, type SheetAnswer } from '@/contract/phrases';
import { call, draftChanged, messageOf, useDone } from '@/ui/shared';

/** Only this many changes are listed; the total is given above them. */
const most = 200;

/** A translators' table comes back: what it would change is shown first, then written as one change that can be undone. */
export function SheetDialog({ draft, open, onClose }: { draft: string; open: boolean; onClose: () => void }) {
  const queries = useQueryClient();
  const done = useDone(draft);
  const [file, setFile] = useState<File | null>(null);
  const look = useMutation({
    mutationFn: (one: File) => call(phraseEndpoints.takeSheet, { draft, write: 'no' }, one),
  });
  const write = useMutation({
    mutationFn: (one: File) => call(phraseEndpoints.takeSheet, { draft, write: 'yes' }, one),
    onSuccess: ({ change, changes }) => {
      done(`${count(changes.length, 'text')} imported.`, change);
      void draftChanged(queries, draft);
      onClose();
    },
  });
  const plan = look.data;
  return (
    <Modal
      title="Import translations"
      open={open}
      width={760}
      onCancel={onClose}
      destroyOnHidden
      afterClose={() => {
        setFile(null);
        look.reset();
        write.reset();
      }}
      footer={[
        <Button key="leave" onClick={onClose}>
          Cancel
        </Button>,
        <Button
          key="write"
          type="primary"
          disabled={!file || !plan?.changes.length}
          loading={write.isPending}
          onClick={() => file && write.mutate(file)}
        >
          {plan?.changes.length ? `Import ${count(plan.changes.length, 'text')}` : 'Import'}
        </Button>,
      ]}
    >
      <Upload.Dragger
        accept=".csv,.tsv,.txt,text/csv"
        showUploadList={false}
        beforeUpload={(one) => {
          setFile(one);
          write.reset();
          look.mutate(one);
          return false;
        }}
      >
        <p>
          {file
            ? file.name
            : 'Drop the CSV here, or choose it: a column “key”, “form” where numbers have forms, and one for each language.'}
        </p>
        <p className="quiet">Empty cells change nothing. Nothing is written before you have seen it.</p>
      </Upload.Dragger>
      {look.isPending && <Progress percent={100} status="active" showInfo={false} />}
      {(look.error ?? write.error) && <Alert type="error" showIcon title={messageOf(look.error ?? write.error)} />}
      {plan && <Plan plan={plan} />}
    </Modal>
  );
}

const count = (number: number, noun: string) => `${number.toLocaleString('en')} ${noun}${number === 1 ? '' : 's'}`;

function Plan({ plan: { changes, problems, same } }: { plan: SheetAnswer }) {
  const errors = problems.filter(({ severity }) => severity === 'error').length;
  return (
    <div className="sheet-plan">
      <p role="status">
        {changes.length ? `${count(changes.length, 'text')} would change` : 'Nothing would change'},{' '}
        {same.toLocaleString('en')} {same === 1 ? 'is' : 'are'} the same
        {errors ? `, ${count(errors, 'cell')} cannot be taken` : ''}.
      </p>
      {problems.length > 0 && (
        <ul className="sheet-problems" aria-label="What is wrong">
          {problems.slice(0, most).map(({ line, column, text, severity }, at) => (
            <li key={at} className={severity === 'error' ? 'is-wrong' : 'is-warned'}>
              Line {line}
              {column && `, ${column}`}: {text}
            </li>
          ))}
        </ul>
      )}
      {changes.length > 0 && (
        <table className="sheet-changes" aria-label="What would change">
          <thead>
            <tr>
              <th scope="col">Phrase</th>
              <th scope="col">In</th>
              <th scope="col">Now</th>
              <th scope="col">Then</th>
            </tr>
          </thead>
          <tbody>
            {changes.slice(0, most).map(({ line, key, form, locale, from, to }) => (
              <tr key={`${line} ${locale}`}>
                <th scope="row">
                  <code>{key}</code> {form && <small>{form}</small>}
                </th>
                <td>{locale}</td>
                <td className="quiet">{from || 'missing'}</td>
                <td>{to}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {changes.length > most && <p className="quiet">The first {most} are shown.</p>}
    </div>
  );
}
