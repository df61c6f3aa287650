'use client';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Segmented, Select, Splitter, Tooltip } from 'antd';
import { useCallback, useEffect, useMemo, useState } from 'react';
import type { LayerItem, PageAnswer, ProblemItem, SubjectItem } from '@/contract/api';
import { pathOf } from '@/core/storefront/route';
import { MakeAlternate } from '../alternates/MakeAlternate';
import { PinHere } from '../alternates/PinHere';
import { api, messageOf } from '../shared/api';
import { usePlace } from '../shared/place';
import { SubjectField } from '../shared/SubjectPicker';
import { FileBanner } from './FileBanner';
import { PageFrame } from './PageFrame';
import { ProblemList } from './ProblemList';
import { showPlace, SourceEditor } from './SourceEditor';
import { Trail } from './Trail';
import { useFile } from './useFile';
import { useSyntax } from './useSyntax';

const firstPage = '/product/tarred-hemp-rope';

/** The main place: the page left, its source right. */
export function Bench() {
  const { draft, get, go } = usePlace();
  const queries = useQueryClient();
  const address = get('page') ?? firstPage;
  const tried = get('try');
  const [revision, setRevision] = useState(0);
  const [broken, setBroken] = useState<{ path: string; problem: ProblemItem } | null>(null);
  const [width, setWidth] = useState(1280);
  const [finding, setFinding] = useState(false);
  const [making, setMaking] = useState(false);

  const page = useQuery({
    queryKey: ['page', draft, address, tried],
    queryFn: () =>
      api<PageAnswer>(
        'GET',
        `/api/drafts/${draft}/page?${new URLSearchParams({ address, ...(tried ? { try: tried } : {}) })}`,
      ),
    placeholderData: (before) => before,
  });
  const files = useQuery({
    queryKey: ['files', draft],
    queryFn: () => api<{ path: string; layer: LayerItem }[]>('GET', `/api/drafts/${draft}/files`),
  });
  const path = get('file') ?? (page.data ? `${page.data.template}.html` : null);

  const saved = useCallback(
    (savedPath: string, problems: ProblemItem[]) => {
      const error = problems.find((one) => one.severity === 'error');
      if (error) setBroken({ path: savedPath, problem: error });
      else {
        setBroken((now) => (now && now.path !== savedPath ? now : null));
        setRevision((now) => now + 1);
      }
      void queries.invalidateQueries();
    },
    [queries],
  );
  const { file, failure, type, save, override, dropTyped, revert, reload } = useFile(draft, path, saved);
  const syntax = useSyntax(path ?? '', file?.text ?? '');
  const problems = useMemo(() => {
    if (!file) return [];
    const unchanged = file.text === file.saved.text;
    return unchanged ? file.saved.problems : (syntax ?? []);
  }, [file, syntax]);

  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      if (event.key.toLowerCase() === 'k') {
        event.preventDefault();
        setFinding(true);
        document.getElementById('go-to')?.focus();
      } else if (event.key.toLowerCase() === 's') {
        event.preventDefault();
        void save();
      }
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  }, [save]);

  const open = useCallback((next: string) => go({ file: next }), [go]);
  const language = page.data?.languages.find((one) => one.current);
  const toPage = (subject: SubjectItem) =>
    go({ page: (language?.prefix ?? '') + pathOf(subject), file: null, try: null });
  const went = useCallback(
    (to: string) => {
      const inDraft = to.startsWith(`/draft/${draft}/`) ? to.slice(`/draft/${draft}`.length) : null;
      if (inDraft) go({ page: inDraft.replace(/[?&]try=[^&#]*/, ''), file: null, try: null });
    },
    [draft, go],
  );

  const report = page.data;
  // What only making the page shows (a budget, a blocked address) is told of beside it; in the open file too, once it is saved.
  const elsewhere = useMemo(() => {
    const key = (one: ProblemItem) => `${one.layer} ${one.line} ${one.code} ${one.message}`;
    const known = new Set(problems.map(key));
    const unsaved = file !== null && file.text !== file.saved.text;
    return (report?.problems ?? []).filter((one) => one.file !== path || (!unsaved && !known.has(key(one))));
  }, [report, problems, path, file]);
  const frameAddress = `/draft/${draft}${address}${tried ? `${address.includes('?') ? '&' : '?'}try=${encodeURIComponent(tried)}` : ''}`;
  const kind = report?.template.split('/')[0] ?? 'product';
  const assigned = report?.because === 'tried' ? null : report?.template.split('/')[1];
  const choices = (report?.choices ?? []).map((one) => ({ value: one.name, label: `try: ${one.label}` }));
  const stale =
    broken &&
    `The page shows the last version that worked. ${broken.path}, line ${broken.problem.line}: ${broken.problem.message}.`;

  return (
    <main className="bench">
      <Splitter>
        <Splitter.Panel defaultSize="54%" min={380}>
          <section className="bench-page" aria-label="Page">
            <div className="bench-tools">
              <SubjectField
                id="go-to"
                label="Go to a page"
                keys="Ctrl K"
                placeholder="Go to a product, category, listing or content page"
                className="go-to"
                value={report?.subject ? `${report.subject.name}` : null}
                onPick={(subject) => {
                  setFinding(false);
                  toPage(subject);
                }}
                open={finding}
                onOpenChange={setFinding}
              />
              <Select
                aria-label="Template in use"
                title="Template in use"
                className="template-choice"
                value={tried ?? ''}
                options={[{ value: '', label: assigned ? `as assigned: ${assigned}` : 'as assigned' }, ...choices]}
                onChange={(value: string) => go({ try: value || null, file: null })}
                popupMatchSelectWidth={220}
              />
              <Tooltip title="Make an alternate from this page’s template">
                <Button onClick={() => setMaking(true)} disabled={!report || report.status !== 200}>
                  New alternate
                </Button>
              </Tooltip>
              {report && report.languages.length > 1 && (
                <Select
                  aria-label="Language of the page"
                  title="Language of the page"
                  className="language-choice"
                  value={language?.prefix ?? ''}
                  options={report.languages.map(({ locale, prefix }) => ({ value: prefix, label: locale }))}
                  onChange={(prefix: string) => go({ page: prefix + address.slice(language?.prefix.length ?? 0) })}
                  popupMatchSelectWidth={false}
                />
              )}
              <Segmented aria-label="Width of the page" options={[360, 768, 1280]} value={width} onChange={setWidth} />
            </div>
            {report && report.because !== 'default' && report.subject && (
              <PinHere draft={draft} report={report} onChanged={() => go({ try: null })} />
            )}
            {page.isError && <Alert type="error" showIcon title={messageOf(page.error)} />}
            <PageFrame
              address={frameAddress}
              revision={revision}
              width={width}
              onWent={went}
              onGoTo={() => {
                setFinding(true);
                document.getElementById('go-to')?.focus();
              }}
              stale={stale}
            />
          </section>
        </Splitter.Panel>
        <Splitter.Panel min={360}>
          <section className="bench-source" aria-label="Source">
            <Trail page={report} path={path} paths={files.data ?? []} onOpen={open} />
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
            {file && (
              <>
                <FileBanner
                  file={file}
                  onOverride={override}
                  onSave={(over) => void save(over)}
                  onDrop={dropTyped}
                  onRevert={() => void revert()}
                />
                <SourceEditor
                  path={file.path}
                  text={file.text}
                  version={file.version}
                  readOnly={!file.writable}
                  problems={problems}
                  onType={type}
                  onSave={() => void save()}
                />
              </>
            )}
            <ProblemList
              here={problems}
              page={elsewhere}
              untranslated={report?.untranslated ?? []}
              onGo={(one) => {
                if (one.file !== path) open(one.file);
                setTimeout(() => showPlace(one.line), one.file === path ? 0 : 400);
              }}
            />
          </section>
        </Splitter.Panel>
      </Splitter>
      {report && (
        <MakeAlternate
          draft={draft}
          kind={kind}
          from={report.template.split('/')[1] ?? 'default'}
          open={making}
          onClose={() => setMaking(false)}
          onMade={(name) => go({ try: name, file: null })}
        />
      )}
    </main>
  );
}
