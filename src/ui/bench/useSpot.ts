'use client';
import { startTransition, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { benchEndpoints, type ViewAnswer } from '@/contract/bench';
import type { Pointed, ToFrame } from '@/contract/frame';
import {
  levelsOf,
  type Level,
  type Place,
  type PlaceTable,
  countOf,
  marksOf,
  renderedIn,
  placeOfMark,
  readMark,
  spotsAt,
  templatesTo,
  trailOf,
  type Spot,
  type Step,
} from '@/core/inspect';
import { call } from '@/ui/shared';
import { allUnsaved } from './unsaved';
import { layerOfText, type OpenFile } from './useFile';

interface Asked {
  draft: string;
  origin: string;
  answer: ViewAnswer | null;
  file: OpenFile | null;
  /** The layer whose file serves at a path. */
  topmost: (path: string) => string | null;
  /** Says something to the page in the frame. */
  post: (message: ToFrame) => void;
  /** Puts the caret at an offset of the open file. */
  showAt: (offset: number) => void;
  /** Puts the caret at a line of the open file, from 1. */
  showLine: (line: number) => void;
  go: (change: Record<string, string | null>) => void;
}

/** How long typing rests before the caret's place is told, in milliseconds. */
const typingRest = 150;

/** A place on the page with its source: what is pointed at, or where the caret stands. */
export interface Where {
  spot: Spot;
  place: Place;
  file: string;
  layer: string;
  /** The frame on the page that is meant, of all in which it was rendered. */
  frame: number;
  count: number;
  /** Which turn of the innermost loop it is: “3 of 12”; null: of none. */
  item: string | null;
}

/** Where one stands: pointing at the page moves the caret, moving the caret outlines the place on the page. */
export function useSpot({ draft, origin, answer, file, topmost, post, showAt, showLine, go }: Asked) {
  /** Tables of served pieces that scripts fetched, by view. */
  const pieces = useRef(new Map<string, PlaceTable>());
  const [view, setView] = useState<string | null>(null);
  const [pieceTable, setPieceTable] = useState<PlaceTable | null>(null);
  const [caret, setCaret] = useState<{ file: string; layer: string; offset: number } | null>(null);
  /** Which of the times it was rendered is meant, counted from 0. */
  const [turn, setTurn] = useState(0);
  const [pointed, setPointed] = useState<Where | null>(null);
  const wanted = useRef<{ file: string; layer: string | null; show: () => void } | null>(null);
  const shopLayer = answer?.shopLayer ?? '';
  /** The layer that the open text is, or will be, in. */
  const layerHere = file ? layerOfText(file, shopLayer) : '';
  const main = answer?.table ?? null;
  const table = view === null ? main : pieceTable;

  const tableOf = useCallback(
    async (of: string | null): Promise<PlaceTable | null> => {
      if (of === null) return main;
      let found = pieces.current.get(of);
      if (!found) {
        const given = { view: of, address: '/', try: null, origin, unsaved: allUnsaved(draft), shown: null };
        found = (await call(benchEndpoints.view, { draft }, given)).table;
        pieces.current.set(of, found);
      }
      return found;
    },
    [main, origin, draft],
  );

  // A page that was rendered again has marks of its own; pieces that were fetched for the one before are gone.
  useEffect(() => {
    pieces.current.clear();
    // eslint-disable-next-line react-hooks/set-state-in-effect -- the page outside changed
    setView(null);
  }, [answer?.shown]);

  const whereOf = useCallback((of: PlaceTable, mark: string): Where | null => {
    const read = readMark(mark);
    const place = placeOfMark(of, mark);
    const source = place && of.sources[place.source];
    if (!read || !place || !source) return null;
    const spot = { template: of.templateOf[read.frame] as number, place: read.place };
    return {
      spot,
      place,
      file: source.file,
      layer: source.layer,
      frame: read.frame,
      count: countOf(of, spot),
      item: itemOf(of, read.frame),
    };
  }, []);

  const pointedLast = useRef<Pointed | null>(null);
  const onPointed = useCallback(
    async (at: Pointed | null) => {
      pointedLast.current = at;
      if (!at) {
        startTransition(() => setPointed(null));
        return;
      }
      const of = await tableOf(at.view).catch(() => null);
      if (pointedLast.current !== at) return;
      const where = of && whereOf(of, at.mark);
      startTransition(() => setPointed(where));
      if (!where) return;
      const layer = layerName(where.layer);
      post({
        kind: 'label',
        mark: at.mark,
        text: `${labelOf(where.place)}  ·  ${where.file}, line ${where.place.line}${where.item ? `  ·  ${where.item}` : ''}  ·  ${layer}`,
      });
    },
    [tableOf, whereOf, post],
  );

  /** How an address names a file of a layer: the one that serves needs no layer. */
  const layerParam = useCallback(
    (path: string, layer: string) => (layer === shopLayer || layer === topmost(path) ? null : layer),
    [shopLayer, topmost],
  );

  const showPlace = useCallback(
    (where: { file: string; layer: string; place: Place }) => {
      const { from } = where.place;
      if (file && file.path === where.file && layerHere === where.layer) {
        showAt(from);
        return;
      }
      wanted.current = { file: where.file, layer: where.layer, show: () => showAt(from) };
      go({ file: where.file, layer: layerParam(where.file, where.layer) });
    },
    [file, layerHere, showAt, go, layerParam],
  );

  const onPicked = useCallback(
    async (at: Pointed) => {
      const of = await tableOf(at.view).catch(() => null);
      const where = of && whereOf(of, at.mark);
      if (!of || !where) return;
      setView(at.view);
      setPieceTable(at.view === null ? null : of);
      setTurn(Math.max(0, renderedIn(of, where.spot).indexOf(where.frame)));
      setCaret({ file: where.file, layer: where.layer, offset: where.place.from });
      showPlace(where);
    },
    [tableOf, whereOf, showPlace],
  );

  // The file that was gone to has come: the caret goes to the place.
  useEffect(() => {
    const to = wanted.current;
    if (!to || !file || file.path !== to.file) return;
    if (to.layer !== null && layerHere !== to.layer) return;
    wanted.current = null;
    const timer = setTimeout(to.show, 30);
    return () => clearTimeout(timer);
  }, [file, layerHere]);

  // A file that is opened has its caret at the top, until it is put elsewhere.
  const openAs = file ? `${file.path} ${layerHere}` : '';
  const [openedAs, setOpenedAs] = useState('');
  if (file && openAs !== openedAs) {
    setOpenedAs(openAs);
    if (caret?.file !== file.path || caret.layer !== layerHere)
      setCaret({ file: file.path, layer: layerHere, offset: caret?.file === file.path ? caret.offset : 0 });
  }

  const resting = useRef<ReturnType<typeof setTimeout> | null>(null);
  const onCaret = useCallback(
    (offset: number, typing: boolean) => {
      if (!file) return;
      if (resting.current) clearTimeout(resting.current);
      const put = () => startTransition(() => setCaret({ file: file.path, layer: layerHere, offset }));
      // Not in the way of typing: what shows the caret's place follows when typing rests.
      if (typing) resting.current = setTimeout(put, typingRest);
      else put();
    },
    [file, layerHere],
  );

  /** What the caret's element is, on the page. */
  const where = useMemo((): Where | null => {
    if (!table || !caret || !file || caret.file !== file.path || caret.layer !== layerHere) return null;
    const spots = spotsAt(table, caret.file, caret.layer, caret.offset);
    const spot = spots.find((one) => countOf(table, one) > 0) ?? spots[0];
    if (!spot) return null;
    const frames = renderedIn(table, spot);
    const at = frames[Math.min(turn, frames.length - 1)] ?? table.templateOf.lastIndexOf(spot.template);
    const place = table.templates[spot.template]?.places[spot.place];
    return place && at >= 0
      ? {
          spot,
          place,
          file: caret.file,
          layer: caret.layer,
          frame: at,
          count: countOf(table, spot),
          item: itemOf(table, at),
        }
      : null;
  }, [table, caret, file, layerHere, turn]);

  // A layout is all of the page: an outline around it would say nothing.
  const whole = where?.place.kind === 'draw' && where.place.text.startsWith('layouts/');
  const marks = useMemo(() => (table && where && !whole ? marksOf(table, where.spot) : []), [table, where, whole]);
  const marksKey = marks.join(' ');
  useEffect(() => {
    post({ kind: 'outline', marks: marksKey ? marksKey.split(' ') : [], view, to: null });
  }, [marksKey, view, post, answer?.shown]);

  const scrollTo = useCallback(() => {
    const own = where && marks.find((mark) => mark.startsWith(`${where.frame}.`));
    const to = own ?? marks[0];
    if (to) post({ kind: 'outline', marks, view, to });
  }, [where, marks, view, post]);

  /** The mark of the element that is meant. */
  const mark = where ? (marks.find((one) => one.startsWith(`${where.frame}.`)) ?? marks[0] ?? null) : null;

  const trail = useMemo(() => (table && where ? templatesTo(table, where.frame) : []), [table, where]);

  /** Opens a template of the trail, at what it draws below. */
  const toStep = useCallback(
    (step: Step, next: Step | undefined) => {
      if (!table) return;
      const place = next
        ? table.templates[table.templateOf[table.parents[next.frame] ?? -1] ?? -1]?.places[next.place]
        : null;
      const source = place && table.sources[place.source];
      if (!place || !source) {
        go({ file: step.file, layer: layerParam(step.file, step.layer) });
        return;
      }
      const frame = table.parents[next?.frame ?? -1] ?? -1;
      const of = { template: table.templateOf[frame] ?? 0, place: next?.place ?? 0 };
      setTurn(Math.max(0, renderedIn(table, of).indexOf(frame)));
      showPlace({ file: source.file, layer: source.layer, place });
    },
    [table, go, layerParam, showPlace],
  );

  /** Opens the shop's own file of a path with its caret at an offset. */
  const goTo = useCallback(
    (path: string, offset: number) => {
      wanted.current = { file: path, layer: shopLayer, show: () => showAt(offset) };
      go({ file: path, layer: null });
    },
    [go, shopLayer, showAt],
  );

  /** Opens the file that serves at a path with its caret at a line, from 1. */
  const goLine = useCallback(
    (path: string, line: number) => {
      if (file?.path === path && file.layer === null) {
        showLine(line);
        return;
      }
      wanted.current = { file: path, layer: null, show: () => showLine(line) };
      go({ file: path, layer: null });
    },
    [file, go, showLine],
  );

  /** Opens a file of a layer with its caret at an offset. */
  const goPlace = useCallback(
    (path: string, layer: string, from: number) => {
      if (file && file.path === path && layerHere === layer) {
        showAt(from);
        return;
      }
      wanted.current = { file: path, layer, show: () => showAt(from) };
      go({ file: path, layer: layerParam(path, layer) });
    },
    [file, layerHere, showAt, go, layerParam],
  );

  const levels = useMemo(() => (table && where ? levelsOf(table, where.spot, where.frame) : []), [table, where]);

  /** What is pointed at, with the draws around it. */
  const levelsAt = useCallback(
    async (at: Pointed): Promise<Level[]> => {
      const of = await tableOf(at.view).catch(() => null);
      const found = of && whereOf(of, at.mark);
      return of && found ? levelsOf(of, found.spot, found.frame) : [];
    },
    [tableOf, whereOf],
  );

  return {
    table,
    shopLayer,
    layerHere,
    levels,
    levelsAt,
    goTo,
    goLine,
    goPlace,
    where,
    mark,
    pointed,
    marks,
    trail,
    view,
    caret,
    onPointed,
    onPicked,
    onCaret,
    scrollTo,
    toStep,
    showPlace,
  };
}

/** The innermost turn of a loop on the way to a frame. */
function itemOf(table: PlaceTable, frame: number): string | null {
  return trailOf(table, frame).findLast((step) => step.kind === 'item')?.text ?? null;
}

export type SpotState = ReturnType<typeof useSpot>;

export const layerName = (layer: string): string => layer || 'shop';

/** A place in a few signs: `<p>`, `{product.name}`. */
export function labelOf({ kind, text, mark }: Place): string {
  if (kind === 'element') return `<${text}>${mark ? ` ${mark}` : ''}`;
  if (kind === 'draw' || kind === 'shelf') return `<${kind} ${text}>`;
  return kind === 'value' ? `{${text}}` : text;
}
