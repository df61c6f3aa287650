'use client';
import { Alert, Button, Modal } from 'antd';
import type { Came } from './pictures-store';

/** Lines that are shown of a list; the rest is counted. */
const maxShown = 12;

const pictures = (count: number) => `${count.toLocaleString('en')} ${count === 1 ? 'picture' : 'pictures'}`;

/** What came of files that were brought in, with the reasons for what was not taken, and its undo. */
export function PicturesCame({ came, onUndo, onClose }: { came: Came; onUndo: () => void; onClose: () => void }) {
  const { added, replaced, same, deleted, left, copies, change } = came;
  const parts = [
    added ? `${pictures(added)} added` : '',
    replaced ? `${pictures(replaced)} replaced` : '',
    deleted ? `${pictures(deleted)} deleted` : '',
    same ? `${pictures(same)} here already` : '',
    left.length ? `${left.length.toLocaleString('en')} left out` : '',
  ].filter(Boolean);
  const lines = [
    ...left.map(({ path, why }) => `${path} is left out: ${why}.`),
    ...copies.map(({ path, copyOf }) => `${path} has the same content as ${copyOf}.`),
  ];
  return (
    <Alert
      type={left.length ? 'warning' : 'success'}
      showIcon
      closable
      onClose={onClose}
      title={parts.length ? `${parts.join(', ')}.` : 'Nothing was changed.'}
      description={
        lines.length > 0 && (
          <ul className="import-left">
            {lines.slice(0, maxShown).map((line) => (
              <li key={line}>{line}</li>
            ))}
            {lines.length > maxShown && <li>… and {lines.length - maxShown} more.</li>}
          </ul>
        )
      }
      action={
        change === null ? undefined : (
          <Button size="small" onClick={onUndo}>
            Undo
          </Button>
        )
      }
    />
  );
}

/** Asks about files whose names other pictures have. */
export function TakeTheirPlaces({ paths, onAnswer }: { paths: string[]; onAnswer: (replace: boolean) => void }) {
  return (
    <Modal
      open
      title={paths.length === 1 ? 'Another picture has this name' : `${paths.length} other pictures have these names`}
      onCancel={() => onAnswer(false)}
      footer={
        <>
          <Button onClick={() => onAnswer(false)}>{paths.length === 1 ? 'Leave it' : 'Leave them'} as before</Button>
          <Button type="primary" onClick={() => onAnswer(true)}>
            Replace {paths.length === 1 ? 'it' : 'them'}
          </Button>
        </>
      }
    >
      <ul className="import-left">
        {paths.slice(0, maxShown).map((path) => (
          <li key={path}>
            <code>{path}</code>
          </li>
        ))}
        {paths.length > maxShown && <li>… and {paths.length - maxShown} more.</li>}
      </ul>
      <p className="quiet">Pages show the new ones at once. It can be undone.</p>
    </Modal>
  );
}
