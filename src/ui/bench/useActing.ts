'use client';
import { App } from 'antd';
import { useCallback, useState, type RefObject } from 'react';
import { benchEndpoints, type ChangeRequest, type SurveyLine } from '@/contract/bench';
import { fileEndpoints, type SaveAnswer } from '@/contract/files';
import { type Level, drawsBetween, type Outcome } from '@/core/inspect';
import { writeAt } from '@/core/editing';
import { call, messageOf, callForLines } from '@/ui/shared';
import type { ReachRow } from './InReach';
import type { EditorHandle } from '@/ui/source';
import { dropUnsaved, keepUnsaved, readUnsaved } from './unsaved';
import { useChanges } from './useChanges';
import type { OpenFile } from './useFile';
import type { SpotState } from './useSpot';
import { useUnsaved } from './useUnsaved';

interface Given {
  draft: string;
  address: string;
  tried: string | null;
  /** The file of the page's template. */
  into: string | null;
  /** Prefix of the page's language. */
  prefix: string;
  file: OpenFile | null;
  spot: SpotState;
  editor: RefObject<EditorHandle | null>;
  unsaved: () => { path: string; text: string }[];
  ownHash: (path: string) => string | null;
  /** Puts another text into the open file. */
  put: (text: string) => void;
  /** Renders the page again. */
  make: () => void;
  point: (on: boolean) => void;
  go: (change: Record<string, string | null>) => void;
  onSaved: (path: string, problems: SaveAnswer['problems']) => void;
}

/** What is done at a place of the page or of the source: changes, moves, values written, pages found, files saved together. */
export function useActing(given: Given) {
  const { draft, address, tried, prefix, file, spot, editor, unsaved, ownHash, put, make, point, go, onSaved } = given;
  const { message } = App.useApp();
  const [moving, setMoving] = useState<Level | null>(null);
  const [goal, setGoal] = useState<Level[] | null>(null);
  const [savingAll, setSavingAll] = useState(false);
  const { goTo } = spot;
  const isOpen = useCallback((path: string) => file !== null && file.path === path && file.layer === null, [file]);

  const onChanged = useCallback(
    (path: string, text: string, caret: number) => {
      if (isOpen(path)) {
        put(text);
        setTimeout(() => editor.current?.show(caret), 40);
      } else goTo(path, caret);
      make();
    },
    [isOpen, put, editor, goTo, make],
  );
  const { told, change, clear } = useChanges({ draft, into: given.into, unsaved, onChanged });

  /** Begins to move a place: its new one is pointed at next. */
  const move = (level: Level | null) => {
    setMoving(level);
    setGoal(null);
    point(level !== null);
  };

  const doAt = (target: ChangeRequest['target'], action: ChangeRequest['action']) => {
    setMoving(null);
    setGoal(null);
    void change(target, action);
  };

  /** Gives a file of the shop's another text, not saved yet. */
  const keepText = (path: string, text: string) => {
    if (isOpen(path)) put(text);
    else {
      const kept = readUnsaved(draft, path);
      const from = kept ? kept.from : ownHash(path);
      keepUnsaved(draft, path, { text, from, at: new Date().toISOString(), made: true });
    }
    make();
  };

  const handDown = (name: string, from: string) => {
    const { table, where } = spot;
    const way = table && where ? drawsBetween(table, where.frame, from) : [];
    if (file) doAt({ file: file.path, layer: spot.layerHere, from: 0 }, { kind: 'hand-down', name, from, way });
  };

  /** Writes a value at the caret. */
  const write = (row: ReachRow, condition: boolean) => {
    const at = editor.current;
    if (!at || !file) return;
    const { edits, caret } = writeAt(at.text(), at.caret(), row, condition);
    at.change(edits);
    at.show(caret);
  };

  /** Goes to a subject on which a condition comes out so. */
  const showPage = async ({ place }: Outcome, held: boolean) => {
    const source = spot.table?.sources[place.source];
    if (!source) return;
    const key = `${source.layer} ${place.from} condition`;
    const asking = new AbortController();
    const ask = { address, try: tried, template: source.file.replace(/\.html$/, ''), unsaved: unsaved() };
    const hide = message.loading('Looking for such a page…', 0);
    const found: { path: string; name: string }[] = [];
    try {
      const stopAt = (examples: { key: string; held: boolean; path: string; name: string }[]) => {
        const one = examples.find((example) => example.key === key && example.held === held);
        if (!one || found.length) return;
        found.push(one);
        asking.abort();
      };
      const heard = ({ survey }: SurveyLine) => stopAt(survey.examples);
      await callForLines(benchEndpoints.survey, { draft }, ask, heard, asking.signal);
    } catch (error) {
      if (!asking.signal.aborted) void message.error(messageOf(error));
    }
    hide();
    const [one] = found;
    if (one) {
      go({ page: prefix + one.path, file: source.file });
      void message.success(`${one.name}: it ${held ? 'holds' : 'does not hold'} here.`);
    } else if (!asking.signal.aborted) {
      void message.info(`There is no page on which it ${held ? 'holds' : 'does not hold'}.`);
    }
  };

  /** Files with texts that are not saved, besides the open one. */
  const others = useUnsaved(draft)
    .map((one) => one.path)
    .filter((path) => !isOpen(path));

  /** `together` makes one change of these saves and of others that say it. */
  const saveOthers = async (together?: string) => {
    setSavingAll(true);
    for (const path of others) {
      const kept = readUnsaved(draft, path);
      if (!kept) continue;
      try {
        const sent = { path, text: kept.text, expected: kept.from, together };
        const { problems } = await call(fileEndpoints.save, { draft }, sent);
        dropUnsaved(draft, path);
        onSaved(path, problems);
      } catch (error) {
        void message.error(`${path} is not saved. ${messageOf(error)} Open it to look at both.`);
      }
    }
    setSavingAll(false);
  };

  return {
    moving,
    goal,
    setGoal,
    move,
    doAt,
    told,
    clear,
    keepText,
    handDown,
    write,
    showPage,
    others,
    savingAll,
    saveOthers,
  };
}
