'use client';
import { Input, Modal } from 'antd';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Press } from '@/ui/workspace';

/** Something that can be done, by its key or from the list. `keys` as people read it: `Ctrl Shift Y`. */
export interface Command {
  id: string;
  title: string;
  keys: string;
  run: () => void;
}

function fits(keys: string, { key, ctrl, shift, alt }: Press): boolean {
  const parts = keys.split(' ');
  const name = parts[parts.length - 1] ?? '';
  return (
    name.toLowerCase() === key.toLowerCase() &&
    parts.includes('Ctrl') === ctrl &&
    parts.includes('Shift') === shift &&
    parts.includes('Alt') === alt
  );
}

/** Runs commands by their keys, wherever the focus is; gives the same for keys that were pressed in the page. */
export function useCommands(commands: Command[]): (press: Press) => boolean {
  const now = useRef(commands);
  useEffect(() => {
    now.current = commands;
  });
  const press = useCallback((one: Press): boolean => {
    const found = now.current.find(({ keys }) => keys && fits(keys, one));
    found?.run();
    return found !== undefined;
  }, []);
  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      const { key, shiftKey: shift, altKey: alt } = event;
      if (!press({ key, ctrl: event.ctrlKey || event.metaKey, shift, alt })) return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener('keydown', hear, true);
    return () => window.removeEventListener('keydown', hear, true);
  }, [press]);
  return press;
}

const Keys = ({ keys }: { keys: string }) => (
  <span className="keys">
    {keys
      .split(' ')
      .filter(Boolean)
      .map((one) => (
        <kbd key={one}>{one}</kbd>
      ))}
  </span>
);

interface Props {
  open: boolean;
  commands: Command[];
  onClose: () => void;
}

/** Everything that can be done, to be found by words. */
export function CommandList({ open, commands, onClose }: Props) {
  const chosen = useRef<Command | null>(null);
  return (
    <Modal
      open={open}
      onCancel={onClose}
      // Once the list has closed and given the focus back.
      afterClose={() => {
        const command = chosen.current;
        chosen.current = null;
        command?.run();
      }}
      footer={null}
      closable={false}
      width={460}
      destroyOnHidden
      title={null}
    >
      {open && (
        <Found
          commands={commands}
          onRun={(command) => {
            chosen.current = command;
            onClose();
          }}
        />
      )}
    </Modal>
  );
}

function Found({ commands, onRun }: { commands: Command[]; onRun: (command: Command) => void }) {
  const [words, setWords] = useState('');
  const [at, setAt] = useState(0);
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = commands.filter(({ title }) => wanted.every((word) => title.toLowerCase().includes(word)));
  const chosen = Math.min(at, found.length - 1);
  const run = (command: Command | undefined) => {
    if (command) onRun(command);
  };
  return (
    <div className="command-list">
      <Input
        autoFocus
        value={words}
        placeholder="What would you like to do?"
        aria-label="Find a command"
        role="combobox"
        aria-expanded="true"
        aria-controls="commands"
        aria-activedescendant={found[chosen] ? `command-${found[chosen].id}` : undefined}
        onChange={(event) => {
          setWords(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(chosen + 1, found.length - 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(chosen - 1, 0));
          else if (event.key === 'Enter') run(found[chosen]);
          else return;
          event.preventDefault();
        }}
      />
      <ul id="commands" role="listbox" aria-label="Commands">
        {found.map((command, number) => (
          <li
            key={command.id}
            id={`command-${command.id}`}
            role="option"
            aria-selected={number === chosen}
            onMouseMove={() => setAt(number)}
            onClick={() => run(command)}
          >
            {command.title}
            <Keys keys={command.keys} />
          </li>
        ))}
        {!found.length && <li className="quiet">Nothing is called that.</li>}
      </ul>
    </div>
  );
}

const editing: [title: string, keys: string][] = [
  ['Suggestions at the caret', 'Ctrl Space'],
  ['Find and replace in this file', 'Ctrl F'],
  ['Comment, or uncomment', 'Ctrl /'],
  ['Undo', 'Ctrl Z'],
  ['Redo', 'Ctrl Y'],
  ['Fold here', 'Ctrl Shift ['],
  ['Unfold here', 'Ctrl Shift ]'],
  ['Move the line', 'Alt ↑ ↓'],
  ['Leave the source by Tab', 'Ctrl M'],
];
const atThePage: [title: string, keys: string][] = [
  ['Point for as long as it is held', 'Alt'],
  ['While pointing: next, before, inside, around', '↓ ↑ → ←'],
  ['While pointing: go to its source', 'Enter'],
  ['Stop pointing', 'Escape'],
  ['Page before, page after', 'Alt ← →'],
];

/** All keys on one sheet. */
export function KeySheet({ open, commands, onClose }: Props) {
  const row = ([title, keys]: [string, string]) => (
    <li key={title}>
      {title}
      <Keys keys={keys} />
    </li>
  );
  const named = commands.filter(({ keys }) => keys).map(({ title, keys }): [string, string] => [title, keys]);
  return (
    <Modal open={open} onCancel={onClose} footer={null} width={760} title="The keys">
      <div className="key-sheet">
        <section>
          <h3>Everywhere</h3>
          <ul>{named.map(row)}</ul>
        </section>
        <section>
          <h3>On the page</h3>
          <ul>{atThePage.map(row)}</ul>
          <h3>In the source</h3>
          <ul>{editing.map(row)}</ul>
        </section>
      </div>
    </Modal>
  );
}
