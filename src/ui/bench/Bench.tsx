'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Segmented, Splitter } from 'antd';
import { startTransition, useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import type { FactsAnswer, LayerItem, ProblemItem, SubjectItem } from '@/contract/api';
import type { FromFrame, Matched, ToFrame } from '@/contract/frame';
import { linesOf, type LineFacts } from '@/core/bench/why';
import { pathOf } from '@/core/storefront/route';
import { MakeAlternate } from '../alternates/MakeAlternate';
import { PinHere } from '../alternates/PinHere';
import { api } from '../shared/api';
import { usePlace } from '../shared/place';
import { useKept } from '../shared/useKept';
import { AwkwardPages } from './AwkwardPages';
import { CommandList, KeySheet, useCommands, type Command } from './Commands';
import { Drawer } from './Drawer';
import { FileBanner } from './FileBanner';
import { FileHistoryTab } from './FileHistoryTab';
import { InReach } from './InReach';
import { LookForm } from './LookForm';
import { PageFrame, type FrameHandle } from './PageFrame';
import { PageTools } from './PageTools';
import { PlaceBar } from './PlaceBar';
import { previewOrigin } from './previewOrigin';
import { noteRecent } from './recent';
import { SourceEditor, type EditorHandle } from './source/SourceEditor';
import { useLanguage } from './source/useLanguage';
import { Styles } from './Styles';
import { Trail } from './Trail';
import { Uses } from './Uses';
import { UnsavedFiles } from './UnsavedFiles';
import { allUnsaved } from './unsaved';
import { useActing } from './useActing';
import { layerOfText, useFile } from './useFile';
import { useNaming } from './useNaming';
import { useSpot } from './useSpot';
import { useView } from './useView';

const firstPage = '/product/tarred-hemp-rope';
const noFacts = new Map<number, LineFacts>();

const never = () => () => {};

/** A browser has ended a page's process so long after the page is taken away, in milliseconds. */
const goneAfter = 700;

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
  const queries = useQueryClient();
  const address = get('page') ?? firstPage;
  const tried = get('try');
  const on = get('on');
  const origin = useMemo(() => previewOrigin(previewPort, window.location), [previewPort]);
  const frame = useRef<FrameHandle>(null);
  const editor = useRef<EditorHandle>(null);
  const [revision, setRevision] = useState(0);
  const [width, setWidth] = useKept('width', 1280);
  const [bare, setBare] = useState(false);
  const [stuck, setStuck] = useState(false);
  const [absent, setAbsent] = useState(false);
  const [finding, setFinding] = useState(false);
  const [picking, setPicking] = useState(false);
  const [making, setMaking] = useState(false);
  const [listing, setListing] = useState<'commands' | 'keys' | null>(null);
  const [pointing, setPointing] = useState(false);
  const [split, setSplit] = useKept('split', 54);
  const [drawerSize, setDrawerSize] = useKept('drawer', 34);
  const [tab, setTab] = useKept('tab', 'reach');
  /** The look is changed by its form, until its source is asked for. */
  const [asForm, setAsForm] = useState(true);

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
  const showLine = useCallback((line: number) => editor.current?.showLine(line), []);
  const show = useCallback((html: string, shown: string) => post({ kind: 'show', html, shown }), [post]);
  const [writing, setWriting] = useState<string | null>(null);
  const view = useView({ draft, origin, address, tried, on, open: writing }, unsaved, show);
  const { make, onFramed, answer } = view;
  const report = answer?.page ?? null;
  const language = report?.languages.find((one) => one.current);

  // The file.
  const path = get('file') ?? (report ? `${report.template}.html` : null);
  const layer = get('layer');
  const saved = useCallback(
    (_: string, problems: ProblemItem[]) => {
      if (!problems.some((one) => one.severity === 'error')) setRevision((now) => now + 1);
      make();
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
    resting.current = setTimeout(() => startTransition(() => setEdits((now) => now + 1)), 150);
  }, [make]);
  const { file, failure, type, typed, put, settle, save, override, dropTyped, revert, reload } = useFile(
    draft,
    path,
    layer,
    saved,
    typedIn,
  );
  const formed = asForm && file?.path === 'look.json' && file.layer === null;
  const writes = file?.writable && file.layer === null ? file.path : null;
  if (writes !== writing) setWriting(writes);
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
  const problems = useMemo(() => {
    if (!file) return [];
    const own = layerOfText(file, answer?.shopLayer ?? '');
    const found = lang.problems?.filter((one) => one.file === file.path && one.layer === own);
    return found ?? (file.text === file.saved.text ? file.saved.problems : []);
  }, [file, lang.problems, answer?.shopLayer]);

  const layers = useMemo(() => new Map((files.data ?? []).map((one) => [one.path, one.layer.name])), [files.data]);
  const ownHashes = useMemo(() => new Map((files.data ?? []).map((one) => [one.path, one.own])), [files.data]);
  const ownHash = useCallback((of: string) => ownHashes.get(of) ?? null, [ownHashes]);
  const topmost = useCallback((of: string) => layers.get(of) ?? null, [layers]);

  // Where one stands: on the page and in the source.
  const spot = useSpot({ draft, origin, answer, file, topmost, post, showAt, showLine, go });
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

  const [awkward, setAwkward] = useState(false);
  const [acting, setActing] = useState(false);
  const [matched, setMatched] = useState<(Matched & { id: number }) | null>(null);
  /** How often a newer page was put in place of the one shown. */
  const [painted, setPainted] = useState(0);
  const prefix = language?.prefix ?? '';
  const acts = useActing({
    draft,
    address,
    tried,
    into: report ? `${report.template}.html` : null,
    prefix,
    file,
    spot,
    editor,
    unsaved,
    ownHash,
    put,
    make,
    point,
    go,
    onSaved: saved,
  });
  const saveAll = async () => {
    // What is saved together is one change of the history.
    const together = Math.random().toString(36).slice(2);
    await acts.saveOthers(together);
    await save(undefined, together);
  };
  const showUses = useCallback(() => setTab('uses'), [setTab]);
  const naming = useNaming({
    draft,
    ask: lang.ask,
    file,
    spot,
    editor,
    unsaved,
    ownHash,
    keepText: acts.keepText,
    onSaved: () => saved('', []),
    onOpen: (of) => go({ file: of, layer: null }),
    showUses,
  });

  const open = useCallback((next: string, ofLayer: string | null = null) => go({ file: next, layer: ofLayer }), [go]);
  const toPage = (subject: SubjectItem) => go({ page: prefix + pathOf(subject), file: null, layer: null, try: null });
  const find = () => {
    setFinding(true);
    document.getElementById('go-to')?.focus();
  };
  /** Shows a tab of the drawer, and goes to the first thing in it. */
  const toDrawer = (one: string) => {
    setTab(one);
    const first =
      '.drawer [role=tabpanel]:not([aria-hidden=true]) :is(input, button, [tabindex="0"]):not([tabindex="-1"])';
    // What a tab shows may have to be asked for first.
    let tries = 0;
    const timer = setInterval(() => {
      const found = document.querySelector<HTMLElement>(first);
      if (!found && ++tries < 30) return;
      clearInterval(timer);
      found?.focus();
    }, 80);
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
    {
      id: 'problem-before',
      title: 'Problem before it',
      keys: 'Shift F8',
      run: () => editor.current?.nextProblem(true),
    },
    { id: 'mend', title: 'Mend it: apply the offered fix', keys: 'Alt Enter', run: () => void editor.current?.mend() },
    ...(['reach', 'styles', 'problems', 'uses', 'history'] as const).map((one) => ({
      id: `tab-${one}`,
      title: `Drawer: ${{ reach: 'In reach', styles: 'Styles', problems: 'Problems', uses: 'Uses', history: 'History' }[one]}`,
      keys: '',
      run: () => toDrawer(one),
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
    { id: 'format', title: 'Format this file', keys: 'Ctrl Shift L', run: () => void naming.format() },
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
      if (acts.moving) void spot.levelsAt(said.at).then(acts.setGoal);
      else spot.onPicked(said.at);
    } else if (said.kind === 'matched') setMatched(said);
    else if (said.kind === 'key') pressed(said);
    else if (said.kind === 'shown') {
      setPainted((now) => now + 1);
    }
  };

  const frameAddress = withQuery(`/draft/${draft}${address}`, {
    ...(tried ? { try: tried } : {}),
    ...(on ? { on } : {}),
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
  const broken = answer?.broken ?? null;
  const stale = view.offline
    ? 'The server does not answer. Go on typing: nothing is lost, and the page follows when it is back.'
    : broken
      ? `The page shows the last version that worked. ${broken.file}, line ${broken.line}: ${broken.message}${/[.?!]$/.test(broken.message) ? '' : '.'}`
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
            {report && <PinHere draft={draft} report={report} tried={tried} onChanged={() => go({ try: null })} />}
            {on && (
              <p className="pin-here">
                <span>
                  As of <strong>{on}</strong>: what rules give on that day.
                </span>
                <Button size="small" onClick={() => go({ on: null })}>
                  Today
                </Button>
              </p>
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
                      // The page that hangs is taken away first: another of the same site would share its process, and hang with it.
                      setAbsent(true);
                      setTimeout(() => setAbsent(false), goneAfter);
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
                prefix={prefix}
                file={path}
                edits={edits}
                unsaved={unsaved}
                onPage={(to) => {
                  setAwkward(false);
                  go({ page: to });
                }}
                onLine={spot.goLine}
              />
            )}
            <div className="frame-keeper" hidden={awkward}>
              {!absent && (
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
              )}
            </div>
            <PlaceBar
              spot={spot}
              pointing={pointing}
              moving={acts.moving}
              goal={acts.goal}
              told={acts.told}
              open={acting}
              onOpen={setActing}
              onDo={acts.doAt}
              onMove={acts.move}
              onStyles={() => setTab('styles')}
              onUntold={acts.clear}
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
                      {(!formed || file.writable) && (
                        <FileBanner
                          file={file}
                          onOverride={override}
                          onSave={(over) => void save(over)}
                          onDrop={dropTyped}
                          onRevert={() => void revert()}
                          onOwn={() => open(file.path)}
                          onMerged={settle}
                        />
                      )}
                      <UnsavedFiles
                        paths={acts.others}
                        saving={acts.savingAll}
                        onOpen={open}
                        onSaveAll={() => void saveAll()}
                      />
                      {file.path === 'look.json' && file.layer === null && (
                        <Segmented
                          className="look-switch"
                          size="small"
                          aria-label="How the look is changed"
                          options={['Form', 'Source']}
                          value={asForm ? 'Form' : 'Source'}
                          onChange={(value) => setAsForm(value === 'Form')}
                        />
                      )}
                      {formed ? (
                        <LookForm
                          draft={draft}
                          own={file.writable ? file.text : null}
                          version={file.version}
                          onText={(text) => {
                            if (!file.writable) override();
                            type(text);
                          }}
                        />
                      ) : (
                        <SourceEditor
                          ref={editor}
                          draft={`${draft} ${file.layer ?? ''}`}
                          path={file.path}
                          text={file.text}
                          version={file.version}
                          readOnly={!file.writable}
                          problems={problems}
                          facts={facts}
                          asks={{ counted, showPage: (outcome, held) => void acts.showPage(outcome, held) }}
                          aid={naming.aid}
                          onType={type}
                          onSave={() => void save()}
                          onCaret={(offset, typing) => {
                            spot.onCaret(offset, typing);
                            if (tab === 'uses') naming.lookUp(offset);
                          }}
                        />
                      )}
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
                      onWrite={acts.write}
                      onHandDown={acts.handDown}
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
                      post={post}
                      matched={matched}
                      onChange={({ path: of, text }) => acts.keepText(of, text)}
                      onOpen={spot.goLine}
                    />
                  }
                  uses={
                    <Uses
                      ask={lang.ask}
                      thing={naming.thing}
                      shopLayer={spot.shopLayer}
                      renaming={naming.renaming}
                      onRenaming={naming.setRenaming}
                      fresh={typedKey}
                      onGo={spot.goPlace}
                      onRename={(use, name) => void naming.rename(use, name)}
                      onReplace={(matches, words, by) => void naming.replaceAll(matches, words, by)}
                    />
                  }
                  history={
                    file && (
                      <FileHistoryTab
                        draft={draft}
                        path={file.path}
                        now={file.saved.hash}
                        onRestored={() => {
                          void reload();
                          saved('', []);
                        }}
                      />
                    )
                  }
                  problems={problems}
                  elsewhere={elsewhere}
                  untranslated={report?.untranslated ?? []}
                  onProblem={(one) => spot.goLine(one.file, one.line)}
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
          target={{ kind: report.subject?.kind ?? 'product' }}
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

/** Path and query of the draft's page that a frame's address shows; null for what is none of it. */
function pageOfFrame(address: string, draft: string): string | null {
  const prefix = `/draft/${draft}`;
  if (!address.startsWith(`${prefix}/`)) return null;
  const url = new URL(address.slice(prefix.length), 'http://shop.invalid');
  url.searchParams.delete('try');
  url.searchParams.delete('on');
  url.searchParams.delete('bare');
  const query = [...url.searchParams].length ? url.search : '';
  return url.pathname + query;
}

function withQuery(address: string, more: Record<string, string>): string {
  const query = new URLSearchParams(more).toString();
  return query ? `${address}${address.includes('?') ? '&' : '?'}${query}` : address;
}
