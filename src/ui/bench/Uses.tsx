'use client';
import { Alert, Button, Checkbox, Input } from 'antd';
import { useEffect, useState } from 'react';
import { thingWords, type Use } from '@/core/editing';
import { useLater } from '@/ui/shared';
import type { Found, AskLanguage } from '@/ui/source';

interface Props {
  ask: AskLanguage;
  /** What is named at the caret. */
  thing: Use | null;
  shopLayer: string;
  /** Its new name is being asked for. */
  renaming: boolean;
  onRenaming: (on: boolean) => void;
  /** Changes when what is typed or saved changed. */
  fresh: number;
  onGo: (file: string, layer: string, from: number) => void;
  onRename: (use: Use, name: string) => void;
  onReplace: (matches: Found[], words: string, by: string, capitals: boolean) => void;
}

/** Where the thing at the caret is used; or any text, in every file, to be replaced in the shop's own. */
export function Uses({ ask, thing, shopLayer, renaming, onRenaming, fresh, onGo, onRename, onReplace }: Props) {
  const [words, setWords] = useState('');
  const [by, setBy] = useState('');
  const [capitals, setCapitals] = useState(false);
  const [found, setFound] = useState<Found[]>([]);
  const [uses, setUses] = useState<Use[]>([]);
  const wanted = useLater(words, 150);
  const key = thing ? JSON.stringify(thing.thing) : '';
  useEffect(() => {
    let over = false;
    if (wanted) void ask('find', { words: wanted, capitals }).then((all) => !over && setFound(all));
    return () => {
      over = true;
    };
  }, [ask, wanted, capitals, fresh]);
  useEffect(() => {
    let over = false;
    if (key) void ask('uses', JSON.parse(key) as Use['thing']).then((all) => !over && setUses(all));
    return () => {
      over = true;
    };
  }, [ask, key, fresh]);
  const own = found.filter(({ layer }) => layer === shopLayer);
  const shown: (Found & { defines?: boolean })[] = wanted ? found : thing ? uses : [];
  const renames = thing && (thing.thing.kind === 'input' || thing.thing.kind === 'piece');
  const others = uses.filter(({ layer }) => layer !== shopLayer);
  return (
    <div className="uses">
      <div className="uses-find">
        <Input
          size="small"
          allowClear
          id="find-everywhere"
          value={words}
          aria-label="Find in every file"
          placeholder="Find in every file"
          onChange={(event) => setWords(event.target.value)}
        />
        {words && (
          <>
            <Input
              size="small"
              value={by}
              aria-label="Replace by"
              placeholder="Replace by"
              onChange={(event) => setBy(event.target.value)}
            />
            <Checkbox checked={capitals} onChange={(event) => setCapitals(event.target.checked)}>
              Capitals count
            </Checkbox>
            <Button
              size="small"
              disabled={!own.length}
              title="What is replaced stands unsaved in each file: look at it, then save"
              onClick={() => onReplace(own, wanted, by, capitals)}
            >
              Replace {own.length} in the shop’s files
            </Button>
          </>
        )}
      </div>
      {!wanted && thing && (
        <div className="uses-thing">
          <span>
            The {thingWords[thing.thing.kind]} <code>{thing.thing.name}</code>
            {thing.thing.of && (
              <>
                {' '}
                of <code>{thing.thing.of}</code>
              </>
            )}
            : {uses.length} {uses.length === 1 ? 'place' : 'places'}
          </span>
          {renames && !renaming && (
            <Button size="small" onClick={() => onRenaming(true)} title="Rename it everywhere (F2)">
              Rename
            </Button>
          )}
        </div>
      )}
      {!wanted && thing && renaming && renames && (
        <Rename
          key={key}
          name={thing.thing.name}
          blocked={
            others.length
              ? `It is named in ${others[0]?.file} of ${others[0]?.layer}, which is not the shop’s to change.`
              : null
          }
          count={uses.length}
          onDone={(name) => {
            onRenaming(false);
            if (name) onRename(thing, name);
          }}
        />
      )}
      <ul>
        {shown.map((one) => (
          <li key={`${one.layer} ${one.file} ${one.from}`}>
            <button type="button" onClick={() => onGo(one.file, one.layer, one.from)}>
              <code>{one.file}</code> <small>line {one.line}</small>
              {one.layer !== shopLayer && <em>{one.layer}</em>}
              {one.defines && <strong> made here</strong>}
              <span>{one.text}</span>
            </button>
          </li>
        ))}
      </ul>
      {wanted && !found.length && <p className="empty-note">“{wanted}” stands in no file of the theme.</p>}
      {!wanted && !thing && (
        <p className="empty-note">
          Put the caret on a template’s name, an input, a mark, a phrase or a file: everything that uses it is listed
          here.
        </p>
      )}
    </div>
  );
}

function Rename({
  name,
  count,
  blocked,
  onDone,
}: {
  name: string;
  count: number;
  blocked: string | null;
  onDone: (name: string | null) => void;
}) {
  const [text, setText] = useState(name);
  const sound = /^[A-Za-z_][\w/-]*$/.test(text);
  if (blocked) return <Alert type="info" showIcon title={blocked} closable={{ onClose: () => onDone(null) }} />;
  return (
    <div className="uses-find">
      <Input
        size="small"
        autoFocus
        value={text}
        aria-label="New name"
        status={sound ? '' : 'error'}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && sound) onDone(text);
          else if (event.key === 'Escape') onDone(null);
        }}
      />
      <Button size="small" type="primary" disabled={!sound || text === name} onClick={() => onDone(text)}>
        Rename in {count} {count === 1 ? 'place' : 'places'}
      </Button>
      <Button size="small" onClick={() => onDone(null)}>
        Leave it
      </Button>
    </div>
  );
}
