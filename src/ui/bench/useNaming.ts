'use client';
import { App } from 'antd';
import { useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { fileEndpoints } from '@/contract/files';
import { withEdits, type Use } from '@/core/editing';
import { call, messageOf } from '@/ui/shared';
import { languageAid, type Found, type EditorHandle, type AskLanguage } from '@/ui/source';
import { dropUnsaved, readUnsaved } from './unsaved';
import type { OpenFile } from './useFile';
import type { SpotState } from './useSpot';

interface Given {
  draft: string;
  ask: AskLanguage;
  file: OpenFile | null;
  spot: SpotState;
  editor: RefObject<EditorHandle | null>;
  unsaved: () => { path: string; text: string }[];
  /** Hash of the shop's own file of a path; null: there is none. */
  ownHash: (path: string) => string | null;
  /** Gives a file of the shop's another text, not saved yet. */
  keepText: (path: string, text: string) => void;
  /** Files were saved that are not the open one. */
  onSaved: () => void;
  onOpen: (path: string) => void;
  /** Shows the list of uses. */
  showUses: () => void;
}

/** What is named at the caret: where it is made and used, its new name; and one text in place of another in every file. */
export function useNaming(given: Given) {
  const { draft, ask, file, spot, editor, unsaved, ownHash, keepText, onSaved, onOpen, showUses } = given;
  const { message } = App.useApp();
  const [thing, setThing] = useState<Use | null>(null);
  const [renaming, setRenaming] = useState(false);
  const show = useCallback(
    (use: Use) => {
      setThing(use);
      showUses();
    },
    [showUses],
  );
  const { goPlace, layerHere } = spot;
  const path = file?.path ?? '';
  const onDefinition = (use: Use) =>
    void ask('definition', use.thing).then((made) => {
      if (made) goPlace(made.file, made.layer, made.from);
      else show(use);
    });
  const calls = useRef({ onDefinition, show });
  useEffect(() => {
    calls.current = { onDefinition, show };
  });
  // Made again for another file only: an editor that is given another aid asks again for the suggestions that it shows.
  const aid = useMemo(
    () =>
      // eslint-disable-next-line react-hooks/refs -- what is called here the editor calls on its events, never a render
      languageAid({
        ask,
        file: path,
        layer: layerHere,
        onDefinition: (use) => calls.current.onDefinition(use),
        onUses: (use) => calls.current.show(use),
        onRename: (use) => {
          calls.current.show(use);
          setRenaming(true);
        },
      }),
    [ask, path, layerHere],
  );

  const lookUp = (offset: number) => {
    const text = editor.current?.text();
    if (renaming || text === undefined || !path.endsWith('.html')) return;
    void ask('thing', { file: path, layer: layerHere, text, offset }).then((use) => use && setThing(use));
  };

  const textOf = async (of: string): Promise<string> => {
    const typed = unsaved().find((one) => one.path === of);
    if (typed) return typed.text;
    return (await call(fileEndpoints.open, { draft, path: of })).text;
  };

  /** Renames it everywhere. A template's name is its file's: then all of it is saved together. */
  const rename = async (use: Use, name: string) => {
    try {
      if (use.thing.kind === 'piece') {
        const [path, to] = [`${use.thing.name}.html`, `${name}.html`];
        const seen = (of: string) => {
          const kept = readUnsaved(draft, of);
          return kept ? kept.from : ownHash(of);
        };
        const open = unsaved().map((one) => ({ ...one, expected: seen(one.path) }));
        const asked = { path, to, expected: seen(path), unsaved: open };
        const { paths } = await call(fileEndpoints.rename, { draft }, asked);
        for (const one of paths) dropUnsaved(draft, one);
        onSaved();
        onOpen(to);
      } else {
        const found = await ask('rename', { thing: use.thing, name });
        const changed = await Promise.all(
          found.map(async (one) => ({ path: one.file, text: withEdits(await textOf(one.file), one.edits) })),
        );
        for (const one of changed) keepText(one.path, one.text);
      }
      setThing({ ...use, thing: { ...use.thing, name } });
      void message.success(
        `${use.thing.name} is called ${name} now${use.thing.kind === 'piece' ? '' : ', in texts that are not saved yet'}.`,
      );
    } catch (error) {
      void message.error(messageOf(error));
    }
  };

  const replaceAll = async (matches: Found[], words: string, by: string) => {
    const paths = [...new Set(matches.map((one) => one.file))];
    for (const of of paths) {
      const edits = matches
        .filter((one) => one.file === of)
        .map(({ from }) => ({ from, to: from + words.length, text: by }));
      keepText(of, withEdits(await textOf(of), edits));
    }
    void message.success(`Replaced in ${paths.length} ${paths.length === 1 ? 'file' : 'files'}, not saved yet.`);
  };

  const format = async () => {
    const text = editor.current?.text();
    if (text === undefined || !file?.writable) return;
    const made = await ask('format', { file: path, text });
    if (made === null) void message.info('Only a file that can be read is formatted.');
    else if (made !== text) keepText(path, made);
  };

  return { aid, thing, renaming, setRenaming, lookUp, rename, replaceAll, format };
}
