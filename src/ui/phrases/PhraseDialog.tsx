'use client';
import { Alert, Button, Modal, Segmented, Skeleton } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { messageOf } from '@/ui/shared';
import { PhraseForm } from './PhraseForm';
import { SaveFailed } from './SaveFailed';
import { usePhrases } from './usePhrases';
import './phrases.css';

interface Props {
  draft: string;
  /** The phrases of the place that was pointed at. */
  keys: readonly string[];
  onClose: () => void;
  onSaved: () => void;
}

/** The phrases of a place of the page, in every language. What is typed and not saved is there again when it is opened next. */
export function PhraseDialog({ draft, keys, onClose, onSaved }: Props) {
  const [key, setKey] = useState(keys[0] ?? '');
  const { store, typed, phrases, data, byKey, save, standing } = usePhrases(draft, onSaved);
  const row = byKey.get(key);
  const ready = standing.ready.filter((one) => keys.includes(one.key));
  const saveNow = useRef(() => {});
  useEffect(() => {
    saveNow.current = () => ready.length > 0 && !save.isPending && save.mutate(ready, { onSuccess: onClose });
  });
  useEffect(() => {
    // Before the source hears it: there it would save the file.
    const pressed = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 's') return;
      event.preventDefault();
      event.stopPropagation();
      saveNow.current();
    };
    window.addEventListener('keydown', pressed, true);
    return () => window.removeEventListener('keydown', pressed, true);
  }, []);
  return (
    <Modal
      title="The words here"
      open
      width={560}
      onCancel={onClose}
      footer={[
        <Button key="close" onClick={onClose}>
          Close
        </Button>,
        <Button
          key="save"
          type="primary"
          disabled={!ready.length}
          loading={save.isPending}
          title="Save (Ctrl S)"
          onClick={() => saveNow.current()}
        >
          Save
        </Button>,
      ]}
    >
      {keys.length > 1 && (
        <Segmented
          aria-label="Which phrase"
          options={[...keys]}
          value={key}
          onChange={setKey}
          className="phrase-keys"
        />
      )}
      {phrases.isError && <Alert type="error" showIcon title={messageOf(phrases.error)} />}
      <SaveFailed error={save.error} />
      {phrases.isLoading && <Skeleton active />}
      {row && data && (
        <PhraseForm key={key} draft={draft} row={row} locales={data.locales} store={store} typed={typed} />
      )}
      {data && !row && (
        <Alert
          type="warning"
          title={`No layer has a phrase “${key}” yet: save the template that names it, and give its words in its file.`}
        />
      )}
    </Modal>
  );
}
