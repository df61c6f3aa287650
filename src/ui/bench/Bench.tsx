'use client';
import { fileEndpoints } from '@/contract/files';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Splitter } from 'antd';
import { startTransition, useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { catalogueEndpoints } from '@/contract/catalogue';
import type { ProblemItem, SubjectItem } from '@/contract/shared';
import type { FromFrame, Matched, ToFrame } from '@/contract/frame';
import { linesOf, type LineFacts } from '@/core/inspect';
import { pageOfDraft, pathOf } from '@/core/address';
import { MakeAlternate, PinHere } from '@/ui/alternates';
import { useDraftSite, call, draftChanged, usePlace, useStored } from '@/ui/shared';
import { AwkwardPages } from './AwkwardPages';
import { CommandList, KeySheet } from './Commands';
import { Drawer } from './Drawer';
import { FileHistoryTab } from './FileHistoryTab';
import { InReach } from './InReach';
import type { FrameHandle } from './PageFrame';
import { PageRoom } from './PageRoom';
import { PageTools } from './PageTools';
import { PlaceBar } from './PlaceBar';
import { noteRecent } from './recent';
import { type EditorHandle, useLanguage } from '@/ui/source';
import { SourceRoom } from './SourceRoom';
import { Styles } from './Styles';
import { Trail } from './Trail';
import { Uses } from './Uses';
import { allUnsaved } from './unsaved';
import { useActing } from './useActing';
import { useBenchCommands } from './useBenchCommands';
import { layerOfText, useFile } from './useFile';
import { useNaming } from './useNaming';
import { useSpot } from './useSpot';
import { useView } from './useView';

const firstPage = '/product/tarred-hemp-rope';
const noFacts = new Map<number, LineFacts>();

const never = () => () => {};

/** The main place: the page left, its source right. Made in the browser, which keeps its sizes and its unsaved texts. */
export function Bench() {
  const here = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  return here ? <Workplace /> : <main className="bench" />;
}

/** Longer than most files: it wires the Bench's parts together; a store outside React is to take that over. */
function Workplace() {
  const { draft, get, go } = usePlace();
  const queries = useQueryClient();
  const address = get('page') ?? firstPage;
  const tried = get('try');
  const on = get('on');
  const { base, origin } = useDraftSite(draft);
  const frame = useRef<FrameHandle>(null);
  const editor = useRef<EditorHandle>(null);
  const [revision, setRevision] = useState(0);
  const [width, setWidth] = useStored('width', 1280);
  const [finding, setFinding] = useState(false);
  const [picking, setPicking] = useState(false);
  const [making, setMaking] = useState(false);
  const [listing, setListing] = useState<'commands' | 'keys' | null>(null);
  const [pointing, setPointing] = useState(false);
  const [split, setSplit] = useStored('split', 54);
  const [drawerSize, setDrawerSize] = useStored('drawer', 34);
  const [tab, setTab] = useStored('tab', 'reach');

  const files = useQuery({
    queryKey: ['files', draft],
    queryFn: () => call(fileEndpoints.list, { draft }),
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
      void draftChanged(queries, draft);
    },
    [queries, draft, make],
  );
  /** How often what is typed changed, and rested. */
  const [edits, setEdits] = useState(0);
  const resting = useRef<ReturnType<typeof setTimeout> | null>(null);
  const typedIn = useCallback(() => {
    make();
    if (resting.current) clearTimeout(resting.current);
    resting.current = setTimeout(() => startTransition(() => setEdits((now) => now + 1)), 150);
  }, [make]);
  const { file, ...does } = useFile(draft, path, layer, saved, typedIn);
  const { failure, typed, put, save, reload } = does;
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
    // The list stays the same object while it says the same: it is another once any file of the draft is.
    revision: files.data ?? (files.isError ? null : undefined),
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
          return (await call(catalogueEndpoints.emptiness, { draft }, asked))[0] ?? null;
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
  const { commands, pressed } = useBenchCommands({
    ...{ editor, pointing, awkward, point, setAwkward, find },
    pickFile: () => setPicking(true),
    toCaret: spot.scrollTo,
    change: () => setActing(true),
    save: () => void save(),
    saveAll: () => void saveAll(),
    intoPage: () => frame.current?.focus(),
    showTab: setTab,
    format: () => void naming.format(),
    reload: () => setRevision((now) => now + 1),
    list: setListing,
  });

  const onSaid = (said: FromFrame, attended: boolean) => {
    if (said.kind === 'ready' || said.kind === 'moved') {
      const to = pageOfDraft(base, said.address);
      if (to === null) return;
      if (said.kind === 'ready') onFramed({ view: said.view, shown: said.shown, address: to });
      if (to !== address)
        go(
          // A page that went elsewhere by itself takes no file out of the hands of who writes in it.
          { page: to, ...(said.kind === 'ready' && attended ? { file: null, layer: null, try: null } : {}) },
          said.kind === 'moved',
        );
      if (said.kind === 'ready') frame.current?.post({ kind: 'point', on: pointing });
    } else if (said.kind === 'pointing') setPointing(said.on);
    else if (said.kind === 'pointed') spot.onPointed(said.at);
    else if (said.kind === 'picked' && attended) {
      if (pointing) point(false);
      if (acts.moving) void spot.levelsAt(said.at).then(acts.setGoal);
      else spot.onPicked(said.at);
    } else if (said.kind === 'matched') setMatched(said);
    else if (said.kind === 'key' && attended)
      pressed({ key: said.key, ctrl: said.key !== 'F6', shift: false, alt: false });
    else if (said.kind === 'shown') {
      setPainted((now) => now + 1);
    }
  };

  const elsewhere = useMemo(() => {
    const key = (one: ProblemItem) => `${one.layer} ${one.file} ${one.line} ${one.code} ${one.message}`;
    const known = new Set(problems.map(key));
    const checked = lang.problems ?? [];
    const inPage = new Set(checked.map(key));
    // What only making the page shows (a budget, a blocked address) is reported beside what checking finds.
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
            {awkward && (
              <AwkwardPages
                draft={draft}
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
            <PageRoom
              ref={frame}
              draft={draft}
              address={address}
              tried={tried}
              on={on}
              revision={revision}
              width={width}
              hidden={awkward}
              stale={stale}
              onSaid={onSaid}
            />
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
                {file && (
                  <SourceRoom
                    draft={draft}
                    file={file}
                    does={does}
                    acts={acts}
                    aid={naming.aid}
                    editor={editor}
                    problems={problems}
                    facts={facts}
                    counted={counted}
                    onOpen={open}
                    onSaveAll={() => void saveAll()}
                    onCaret={(offset, typing) => {
                      spot.onCaret(offset, typing);
                      if (tab === 'uses') naming.lookUp(offset);
                    }}
                  />
                )}
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
                      fresh={lang.known}
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
