'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, App, Button, Splitter } from 'antd';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import type {
  ChangeRequest,
  FactsAnswer,
  FileAnswer,
  LayerItem,
  ProblemItem,
  SaveAnswer,
  SubjectItem,
} from '@/contract/api';
import type { FromFrame, Matched, Pointed, ToFrame } from '@/contract/frame';
import type { Level } from '@/core/bench/levels';
import { drawsBetween } from '@/core/bench/trail';
import type { Use } from '@/core/bench/things';
import { linesOf, type LineFacts, type Outcome } from '@/core/bench/why';
import { writeAt } from '@/core/bench/write';
import { pathOf } from '@/core/storefront/route';
import { MakeAlternate } from '../alternates/MakeAlternate';
import { PinHere } from '../alternates/PinHere';
import { api, messageOf } from '../shared/api';
import { usePlace } from '../shared/place';
import { useKept } from '../shared/useKept';
import { AwkwardPages } from './AwkwardPages';
import { CommandList, KeySheet, useCommands, type Command } from './Commands';
import { Drawer } from './Drawer';
import { FileBanner } from './FileBanner';
import { InReach, type ReachRow } from './InReach';
import { PageFrame, type FrameHandle } from './PageFrame';
import { PageTools } from './PageTools';
import { PlaceBar } from './PlaceBar';
import { previewOrigin } from './previewOrigin';
import { readSurvey } from './readSurvey';
import { noteRecent } from './recent';
import { SourceEditor, type EditorHandle } from './source/SourceEditor';
import { languageAid } from './source/aid';
import type { Found } from './source/language.worker';
import { useLanguage } from './source/useLanguage';
import { Styles } from './Styles';
import { Trail } from './Trail';
import { Uses } from './Uses';
import { UnsavedFiles } from './UnsavedFiles';
import { allUnsaved, dropUnsaved, keepUnsaved, readUnsaved } from './unsaved';
import { useChanges } from './useChanges';
import { useFile } from './useFile';
import { useSpot } from './useSpot';
import { useView } from './useView';

const firstPage = '/product/tarred-hemp-rope';
const noFacts = new Map<number, LineFacts>();

const never = () => () => {};

/** The main place: the page left, its source right. Made in the browser, which keeps its sizes and its unsaved texts. */
export function Bench({ previewPort }: { previewPort: number }) {
  const here = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  return here ? <Workplace previewPort={previewPort} /> : <main className="bench" />;
}

function Workplace({ previewPort }: { previewPort: number }) {
  const { draft, get, go } = usePlace();
  const { message } = App.useApp();
  const queries = useQueryClient();
  const address = get('page') ?? firstPage;
  const tried = get('try');
  const origin = useMemo(() => previewOrigin(previewPort, window.location), [previewPort]);
  const frame = useRef<FrameHandle>(null);
  const editor = useRef<EditorHandle>(null);
  const [revision, setRevision] = useState(0);
  const [width, setWidth] = useKept('width', 1280);
  const [bare, setBare] = useState(false);
  const [stuck, setStuck] = useState(false);
  const [finding, setFinding] = useState(false);
  const [picking, setPicking] = useState(false);
  const [making, setMaking] = useState(false);
  const [listing, setListing] = useState<'commands' | 'keys' | null>(null);
  const [pointing, setPointing] = useState(false);
  const [split, setSplit] = useKept('split', 54);
  const [drawerSize, setDrawerSize] = useKept('drawer', 34);
  const [tab, setTab] = useKept('tab', 'reach');

  const files = useQuery({
    queryKey: ['files', draft],
    queryFn: () => api<{ path: string; layer: LayerItem; own: string | null }[]>('GET', `/api/drafts/${draft}/files`),
  });

  // The page, made with what is typed.
  const typedNow = useRef<() => { path: string; text: string } | null>(() => null);
  const unsaved = useCallback(() => {
    const typed = typedNow.current();
    const kept = allUnsaved(draft).filter((one) => one.path !== typed?.path);
    return typed ? [...kept, typed] : kept;
  }, [draft]);
  const post = useCallback((to: ToFrame) => frame.current?.post(to), []);
  const showAt = useCallback((offset: number) => editor.current?.show(offset), []);
  const show = useCallback((html: string, shown: string) => post({ kind: 'show', html, shown }), [post]);
  const view = useView({ draft, origin, address, tried }, unsaved, show);
  const { make, onFramed, answer } = view;
  const report = answer?.page ?? null;
  const language = report?.languages.find((one) => one.current);

  // The file.
  const path = get('file') ?? (report ? `${report.template}.html` : null);
  const layer = get('layer');
  const saved = useCallback(
    (_: string, problems: ProblemItem[]) => {
      if (!problems.some((one) => one.severity === 'error')) setRevision((now) => now + 1);
      make(true);
      void queries.invalidateQueries();
    },
    [queries, make],
  );
  /** How often what is typed changed, and rested. */
  const [edits, setEdits] = useState(0);
  const resting = useRef<ReturnType<typeof setTimeout> | null>(null);
  const typedIn = useCallback(() => {
    make();
    if (resting.current) clearTimeout(resting.current);
    resting.current = setTimeout(() => setEdits((now) => now + 1), 150);
  }, [make]);
  const { file, failure, type, typed, put, settle, save, override, dropTyped, revert, reload } = useFile(
    draft,
    path,
    layer,
    saved,
    typedIn,
  );
  useEffect(() => {
    typedNow.current = typed;
  });
  useEffect(() => {
    if (file) noteRecent(draft, file.path);
  }, [draft, file]);
  // The language: what is wrong as one types, in the open file and in all that made the page.
  const looked = useMemo(
    () => [...new Set([...(path ? [path] : []), ...(report?.drawn.map(({ name }) => `${name}.html`) ?? [])])],
    [path, report],
  );
  const typedKey = `${edits} ${file?.path ?? ''} ${file?.version ?? 0} ${answer?.shown ?? ''}`;
  const lang = useLanguage({
    draft,
    revision: `${revision} ${file?.saved.hash ?? ''}`,
    paths: looked,
    typed: typedKey,
    unsaved,
  });
  const { ask } = lang;
  const problems = useMemo(() => {
    if (!file) return [];
    const own = file.writable ? (answer?.shopLayer ?? '') : file.saved.layer.name;
    const found = lang.problems?.filter((one) => one.file === file.path && one.layer === own);
    return found ?? (file.text === file.saved.text ? file.saved.problems : []);
  }, [file, lang.problems, answer?.shopLayer]);

  const layers = useMemo(() => new Map((files.data ?? []).map((one) => [one.path, one.layer.name])), [files.data]);
  const ownHashes = useMemo(() => new Map((files.data ?? []).map((one) => [one.path, one.own])), [files.data]);
  const topmost = useCallback((of: string) => layers.get(of) ?? null, [layers]);

  // Where one stands: on the page and in the source.
  const spot = useSpot({ draft, origin, answer, file, topmost, post, showAt, go });
  const facts = useMemo(
    () => (spot.table && file ? linesOf(spot.table, file.path, spot.layerHere) : noFacts),
    [spot.table, spot.layerHere, file],
  );
  const counted = useCallback(
    (object: string, fields: string[]) =>
      queries.fetchQuery({
        queryKey: ['fact', object, ...fields],
        queryFn: async () => {
          const asked = { fields: [{ object, path: fields }] };
          return (await api<FactsAnswer>('POST', `/api/drafts/${draft}/fact`, asked))[0] ?? null;
        },
        staleTime: 60_000,
      }),
    [queries, draft],
  );

  const point = useCallback((on: boolean) => {
    setPointing(on);
    frame.current?.post({ kind: 'point', on });
    if (on) frame.current?.focus();
  }, []);

  // Doing something at a place of the page.
  const [moving, setMoving] = useState<Level | null>(null);
  const [goal, setGoal] = useState<Level[] | null>(null);
  const [awkward, setAwkward] = useState(false);
  const [acting, setActing] = useState(false);
  const [matched, setMatched] = useState<(Matched & { id: number }) | null>(null);
  /** How often a newer page was put in place of the one shown. */
  const [painted, setPainted] = useState(0);
  const [savingAll, setSavingAll] = useState(false);
  const changed = useCallback(
    (of: string, text: string, caret: number) => {
      if (file && file.path === of && file.layer === null) {
        put(text);
        setTimeout(() => editor.current?.show(caret), 40);
      } else spot.goTo(of, caret);
      make();
    },
    [file, put, spot, make],
  );
  const { told, change, clear } = useChanges({ draft, unsaved, onChanged: changed });
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
  const keepText = (of: string, text: string) => {
    if (file && file.path === of && file.layer === null) put(text);
    else {
      const from = readUnsaved(draft, of)?.from ?? ownHashes.get(of) ?? null;
      keepUnsaved(draft, of, { text, from, at: new Date().toISOString(), made: true });
    }
    make();
  };
  const handDown = (name: string, from: string) => {
    const { table, where } = spot;
    const way = table && where ? drawsBetween(table, where.frame, from) : [];
    if (path) doAt({ file: path, layer: spot.layerHere, from: 0 }, { kind: 'hand-down', name, from, way });
  };
  /** Goes to a subject on which a condition comes out so. */
  const showPage = async ({ place }: Outcome, held: boolean) => {
    const source = spot.table?.sources[place.source];
    if (!source) return;
    const key = `${source.layer} ${place.from} condition`;
    const asking = new AbortController();
    const ask = { address, try: tried, template: source.file.replace(/\.html$/, ''), unsaved: unsaved() };
    const hide = message.loading('Looking for such a page…', 0);
    let found: { path: string; name: string } | null = null;
    try {
      await readSurvey(
        draft,
        ask,
        ({ survey }) => {
          found ??= survey.examples.find((one) => one.key === key && one.held === held) ?? null;
          if (found) asking.abort();
        },
        asking.signal,
      );
    } catch (error) {
      if (!asking.signal.aborted) void message.error(messageOf(error));
    }
    hide();
    const one = found as { path: string; name: string } | null;
    if (one) {
      go({ page: (language?.prefix ?? '') + one.path, file: source.file });
      void message.success(`${one.name}: it ${held ? 'holds' : 'does not hold'} here.`);
    } else if (!asking.signal.aborted) {
      void message.info(`There is no page on which it ${held ? 'holds' : 'does not hold'}.`);
    }
  };
  const write = (row: ReachRow, condition: boolean) => {
    const at = editor.current;
    if (!at || !file) return;
    const { edits, caret } = writeAt(at.text(), at.caret(), row, condition);
    at.change(edits);
    at.show(caret);
  };
  const others = allUnsaved(draft)
    .map((one) => one.path)
    .filter((one) => one !== file?.path || file.layer !== null);
  const saveAll = async () => {
    setSavingAll(true);
    for (const one of others) {
      const kept = readUnsaved(draft, one);
      if (!kept) continue;
      try {
        const sent = { path: one, text: kept.text, expected: kept.from };
        const { problems: found } = await api<SaveAnswer>('PUT', `/api/drafts/${draft}/file`, sent);
        dropUnsaved(draft, one);
        saved(one, found);
      } catch (error) {
        void message.error(`${one} is not saved. ${messageOf(error)}`);
      }
    }
    setSavingAll(false);
    await save();
  };

  // What is named at the caret.
  const [thing, setThing] = useState<Use | null>(null);
  const [renaming, setRenaming] = useState(false);
  const showUses = useCallback(
    (use: Use) => {
      setThing(use);
      setTab('uses');
    },
    [setTab],
  );
  const { goPlace, layerHere, shopLayer } = spot;
  const openPath = file?.path ?? '';
  const aid = useMemo(
    () =>
      languageAid({
        ask,
        file: openPath,
        layer: layerHere,
        onDefinition: (use) =>
          void ask('definition', use.thing).then((made) => {
            if (made) goPlace(made.file, made.layer, made.from);
            else showUses(use);
          }),
        onUses: showUses,
        onRename: (use) => {
          showUses(use);
          setRenaming(true);
        },
      }),
    [ask, openPath, layerHere, goPlace, showUses, setRenaming],
  );
  const lookUp = (offset: number) => {
    const text = editor.current?.text();
    if (text === undefined || !openPath.endsWith('.html')) return;
    void ask('thing', { file: openPath, layer: layerHere, text, offset }).then((use) => use && setThing(use));
  };
  const textOf = async (of: string): Promise<string> => {
    const typedText = unsaved().find((one) => one.path === of)?.text;
    if (typedText !== undefined) return typedText;
    const query = new URLSearchParams({ path: of });
    return (await api<FileAnswer>('GET', `/api/drafts/${draft}/file?${query}`)).text;
  };
  const rename = async (use: Use, name: string) => {
    try {
      const edits = await ask('rename', { thing: use.thing, name });
      for (const { file: of, edits: changes } of edits) keepText(of, withEdits(await textOf(of), changes));
      if (use.thing.kind === 'piece') {
        // A template's name is its file's: the file goes along, all of it saved together.
        const old = `${use.thing.name}.html`;
        const text = await textOf(old);
        const all = [
          ...allUnsaved(draft),
          ...(typedNow.current() ? [typedNow.current() as { path: string; text: string }] : []),
        ];
        const paths = new Set(edits.map((one) => one.file));
        const kept = [...new Map(all.filter((one) => paths.has(one.path)).map((one) => [one.path, one])).values()];
        await api('PUT', `/api/drafts/${draft}/files`, {
          files: [
            { path: `${name}.html`, text, expected: null },
            { path: old, text: null, expected: ownHashes.get(old) ?? null },
            ...kept.map((one) => ({ ...one, expected: ownHashes.get(one.path) ?? null })),
          ],
        });
        for (const one of paths) dropUnsaved(draft, one);
        saved(old, []);
        go({ file: `${name}.html`, layer: null });
        void reload();
      }
      void message.success(`${use.thing.name} is called ${name} now.`);
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
    const made = await ask('format', { file: file.path, text });
    if (made === null) void message.info('Only a template that can be read is formatted.');
    else if (made !== text) put(made);
  };

  const open = useCallback((next: string, ofLayer: string | null = null) => go({ file: next, layer: ofLayer }), [go]);
  const toPage = useCallback(
    (subject: SubjectItem) =>
      go({ page: (language?.prefix ?? '') + pathOf(subject), file: null, layer: null, try: null }),
    [go, language],
  );
  const find = () => {
    setFinding(true);
    document.getElementById('go-to')?.focus();
  };
  const commands: Command[] = [
    { id: 'page', title: 'Go to a page', keys: 'Ctrl K', run: find },
    { id: 'file', title: 'Open a file', keys: 'Ctrl P', run: () => setPicking(true) },
    {
      id: 'point',
      title: pointing ? 'Stop pointing' : 'Point at the page',
      keys: 'Ctrl .',
      run: () => point(!pointing),
    },
    { id: 'here', title: 'Show the caret’s element on the page', keys: 'Ctrl I', run: spot.scrollTo },
    { id: 'why', title: 'Why is it here, or not?', keys: 'Ctrl Shift Y', run: () => editor.current?.explain() },
    { id: 'change', title: 'Change something here', keys: 'Ctrl Enter', run: () => setActing(true) },
    { id: 'save', title: 'Save', keys: 'Ctrl S', run: () => void save() },
    { id: 'save-all', title: 'Save all', keys: 'Ctrl Shift S', run: () => void saveAll() },
    { id: 'source', title: 'To the source', keys: 'F6', run: () => editor.current?.focus() },
    { id: 'to-page', title: 'Into the page', keys: '', run: () => frame.current?.focus() },
    { id: 'problem', title: 'Next problem in this file', keys: 'F8', run: () => editor.current?.nextProblem(false) },
    ...(['reach', 'styles', 'problems', 'uses'] as const).map((one) => ({
      id: `tab-${one}`,
      title: `Drawer: ${{ reach: 'In reach', styles: 'Styles', problems: 'Problems', uses: 'Uses' }[one]}`,
      keys: '',
      run: () => setTab(one),
    })),
    {
      id: 'find',
      title: 'Find and replace in every file',
      keys: 'Ctrl Shift F',
      run: () => {
        setTab('uses');
        setTimeout(() => document.getElementById('find-everywhere')?.focus(), 60);
      },
    },
    { id: 'format', title: 'Format this file', keys: 'Ctrl Shift L', run: () => void format() },
    {
      id: 'awkward',
      title: awkward ? 'One page' : 'Awkward pages',
      keys: 'Ctrl Shift A',
      run: () => setAwkward(!awkward),
    },
    { id: 'reload', title: 'Load the page again', keys: '', run: () => setRevision((now) => now + 1) },
    { id: 'commands', title: 'All commands', keys: 'Ctrl E', run: () => setListing('commands') },
    { id: 'keys', title: 'The keys', keys: 'F1', run: () => setListing('keys') },
  ];
  const pressed = useCommands(commands);

  const onSaid = (said: FromFrame) => {
    if (said.kind === 'ready' || said.kind === 'moved') {
      const to = pageOfFrame(said.address, draft);
      if (to === null) return;
      if (said.kind === 'ready') onFramed({ view: said.view, shown: said.shown, address: to });
      if (to !== address)
        go(
          { page: to, ...(said.kind === 'ready' ? { file: null, layer: null, try: null } : {}) },
          said.kind === 'moved',
        );
      if (said.kind === 'ready') frame.current?.post({ kind: 'point', on: pointing });
    } else if (said.kind === 'pointing') setPointing(said.on);
    else if (said.kind === 'pointed') spot.onPointed(said.at);
    else if (said.kind === 'picked') {
      if (pointing) point(false);
      if (moving) void spot.levelsAt(said.at).then(setGoal);
      else spot.onPicked(said.at);
    } else if (said.kind === 'matched') setMatched(said);
    else if (said.kind === 'key') pressed(said);
    else if (said.kind === 'shown') {
      setPainted((now) => now + 1);
      (window as { lastShown?: (shown: string) => void }).lastShown?.(said.shown);
    }
  };

  const frameAddress = withQuery(`/draft/${draft}${address}`, {
    ...(tried ? { try: tried } : {}),
    ...(bare ? { bare: '' } : {}),
  });
  const elsewhere = useMemo(() => {
    const key = (one: ProblemItem) => `${one.layer} ${one.file} ${one.line} ${one.code} ${one.message}`;
    const known = new Set(problems.map(key));
    const checked = lang.problems ?? [];
    const inPage = new Set(checked.map(key));
    // What only making the page shows (a budget, a blocked address) is told of beside what checking finds.
    const made = (report?.problems ?? []).filter(
      (one) => !inPage.has(key(one)) && (!lang.problems || runtime.has(one.code)),
    );
    return [...checked, ...made].filter((one) => !known.has(key(one)));
  }, [report, problems, lang.problems]);
  const savedError =
    file && file.text === file.saved.text ? file.saved.problems.find((one) => one.severity === 'error') : null;
  const broken = answer?.broken ?? savedError ?? null;
  const stale = view.offline
    ? 'The server does not answer. Go on typing: nothing is lost, and the page follows when it is back.'
    : broken
      ? `The page shows the last version that worked. ${broken.file}, line ${broken.line}: ${broken.message}.`
      : null;

  return (
    <main className="bench">
      <Splitter onResizeEnd={([left, right]) => left && right && setSplit((left / (left + right)) * 100)}>
        <Splitter.Panel defaultSize={`${split}%`} min={380}>
          <section className="bench-page" aria-label="Page">
            <PageTools
              report={report}
              address={address}
              tried={tried}
              width={width}
              pointing={pointing}
              finding={finding}
              onFinding={setFinding}
              onPick={toPage}
              onTry={(value) => go({ try: value, file: null, layer: null })}
              onMake={() => setMaking(true)}
              onLanguage={(to) => go({ page: to })}
              onWidth={setWidth}
              onPoint={point}
              awkward={awkward}
              onAwkward={setAwkward}
            />
            {report && report.because !== 'default' && report.subject && (
              <PinHere draft={draft} report={report} onChanged={() => go({ try: null })} />
            )}
            {view.failure && !view.offline && <Alert type="error" showIcon title={view.failure} />}
            {stuck && (
              <Alert
                type="warning"
                showIcon
                title="The page does not answer: one of its scripts may be going round without end."
                action={
                  <Button
                    size="small"
                    onClick={() => {
                      setBare(true);
                      setStuck(false);
                    }}
                  >
                    Show it without scripts
                  </Button>
                }
              />
            )}
            {bare && (
              <Alert
                type="info"
                showIcon
                title="The theme’s scripts do not run."
                action={
                  <Button size="small" onClick={() => setBare(false)}>
                    Let them run
                  </Button>
                }
              />
            )}
            {awkward && (
              <AwkwardPages
                draft={draft}
                origin={origin}
                address={address}
                tried={tried}
                prefix={language?.prefix ?? ''}
                file={path}
                edits={edits}
                unsaved={unsaved}
                onPage={(to) => {
                  setAwkward(false);
                  go({ page: to });
                }}
                onLine={(of, line) => {
                  open(of);
                  setTimeout(() => editor.current?.showLine(line), of === path ? 0 : 500);
                }}
              />
            )}
            <div className="frame-keeper" hidden={awkward}>
              <PageFrame
                ref={frame}
                origin={origin}
                address={frameAddress}
                revision={revision}
                width={width}
                onSaid={onSaid}
                onStuck={setStuck}
                stale={stale}
              />
            </div>
            <PlaceBar
              spot={spot}
              pointing={pointing}
              moving={moving}
              goal={goal}
              told={told}
              open={acting}
              onOpen={setActing}
              onDo={doAt}
              onMove={move}
              onStyles={() => setTab('styles')}
              onUntold={clear}
            />
          </section>
        </Splitter.Panel>
        <Splitter.Panel min={360}>
          <section className="bench-source" aria-label="Source">
            <Trail
              draft={draft}
              steps={spot.trail}
              page={report ?? undefined}
              path={path}
              layer={file && (file.writable ? { kind: 'shop', name: spot.shopLayer, version: '' } : file.saved.layer)}
              paths={files.data ?? []}
              picking={picking}
              onPicking={setPicking}
              onOpen={open}
              onStep={spot.toStep}
            />
            {failure && (
              <Alert
                type="error"
                showIcon
                title={failure}
                action={
                  <Button size="small" onClick={() => void reload()}>
                    Try again
                  </Button>
                }
              />
            )}
            <Splitter
              orientation="vertical"
              onResizeEnd={([top, bottom]) => top && bottom && setDrawerSize((bottom / (top + bottom)) * 100)}
            >
              <Splitter.Panel min={120}>
                <div className="source-room">
                  {file && (
                    <>
                      <FileBanner
                        file={file}
                        onOverride={override}
                        onSave={(over) => void save(over)}
                        onDrop={dropTyped}
                        onRevert={() => void revert()}
                        onOwn={() => open(file.path)}
                        onMerged={settle}
                      />
                      <UnsavedFiles paths={others} saving={savingAll} onOpen={open} onSaveAll={() => void saveAll()} />
                      <SourceEditor
                        ref={editor}
                        draft={`${draft} ${file.layer ?? ''}`}
                        path={file.path}
                        text={file.text}
                        version={file.version}
                        readOnly={!file.writable}
                        problems={problems}
                        facts={facts}
                        asks={{ counted, showPage: (outcome, held) => void showPage(outcome, held) }}
                        aid={aid}
                        onType={type}
                        onSave={() => void save()}
                        onCaret={(offset) => {
                          spot.onCaret(offset);
                          if (tab === 'uses' && !renaming) lookUp(offset);
                        }}
                      />
                    </>
                  )}
                </div>
              </Splitter.Panel>
              <Splitter.Panel defaultSize={`${drawerSize}%`} min={34}>
                <Drawer
                  tab={tab}
                  onTab={setTab}
                  reach={
                    <InReach
                      draft={draft}
                      asked={
                        spot.caret && file && file.path.endsWith('.html') && spot.caret.file === file.path
                          ? {
                              view: spot.view,
                              address,
                              try: tried,
                              origin,
                              file: file.path,
                              layer: spot.layerHere,
                              offset: spot.caret.offset,
                              frame: spot.where?.frame ?? null,
                            }
                          : null
                      }
                      shown={answer?.shown ?? ''}
                      unsaved={unsaved}
                      writable={file?.writable ?? false}
                      onWrite={write}
                      onHandDown={handDown}
                    />
                  }
                  styles={
                    <Styles
                      draft={draft}
                      assets={report?.assets ?? []}
                      shopLayer={spot.shopLayer}
                      mark={spot.mark}
                      view={spot.view}
                      shown={`${answer?.shown ?? ''} ${painted}`}
                      unsaved={unsaved}
                      post={post}
                      matched={matched}
                      onChange={({ path: of, text }) => keepText(of, text)}
                      onOpen={(of, line) => {
                        open(of);
                        setTimeout(() => editor.current?.showLine(line), of === path ? 0 : 500);
                      }}
                    />
                  }
                  uses={
                    <Uses
                      ask={ask}
                      thing={thing}
                      shopLayer={shopLayer}
                      renaming={renaming}
                      onRenaming={setRenaming}
                      fresh={typedKey}
                      onGo={goPlace}
                      onRename={(use, name) => void rename(use, name)}
                      onReplace={(matches, words, by) => void replaceAll(matches, words, by)}
                    />
                  }
                  problems={problems}
                  elsewhere={elsewhere}
                  untranslated={report?.untranslated ?? []}
                  onProblem={(one) => {
                    if (one.file !== path) open(one.file);
                    setTimeout(() => editor.current?.showLine(one.line), one.file === path ? 0 : 400);
                  }}
                />
              </Splitter.Panel>
            </Splitter>
          </section>
        </Splitter.Panel>
      </Splitter>
      <CommandList open={listing === 'commands'} commands={commands} onClose={() => setListing(null)} />
      <KeySheet open={listing === 'keys'} commands={commands} onClose={() => setListing(null)} />
      {report && (
        <MakeAlternate
          draft={draft}
          kind={(report.template.split('/')[0] ?? 'product') as Parameters<typeof MakeAlternate>[0]['kind']}
          from={report.template.split('/')[1] ?? 'default'}
          open={making}
          onClose={() => setMaking(false)}
          onMade={(name) => go({ try: name, file: null, layer: null })}
        />
      )}
    </main>
  );
}

/** Problems that only show when a page is made. */
const runtime = new Set(['blocked', 'budget', 'fault', 'depth', 'missing', 'style-value']);

/** A text with stretches of it replaced. */
function withEdits(text: string, edits: readonly { from: number; to: number; text: string }[]): string {
  return [...edits]
    .sort((a, b) => b.from - a.from)
    .reduce((now, { from, to, text: put }) => now.slice(0, from) + put + now.slice(to), text);
}

/** Path and query of the draft's page that a frame's address shows; null for what is none of it. */
function pageOfFrame(address: string, draft: string): string | null {
  const prefix = `/draft/${draft}`;
  if (!address.startsWith(`${prefix}/`)) return null;
  const url = new URL(address.slice(prefix.length), 'http://shop.invalid');
  url.searchParams.delete('try');
  url.searchParams.delete('bare');
  const query = [...url.searchParams].length ? url.search : '';
  return url.pathname + query;
}

function withQuery(address: string, more: Record<string, string>): string {
  const query = new URLSearchParams(more).toString();
  return query ? `${address}${address.includes('?') ? '&' : '?'}${query}` : address;
}

export type { Pointed };
