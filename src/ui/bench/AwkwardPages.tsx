'use client';
import { Alert, Button, Progress } from 'antd';
import { useEffect, useRef, useState } from 'react';
import { benchEndpoints, type SurveyLine } from '@/contract/bench';
import type { ToFrame } from '@/contract/frame';
import { parseFrameMessage } from '@/contract/from-frame';
import { outcomeInWords, marksOf } from '@/core/inspect';
import { draftAddress } from '@/core/address';
import { useDraftSite, call, messageOf, callForLines, tellsFramed } from '@/ui/shared';

interface Props {
  draft: string;
  address: string;
  tried: string | null;
  /** Prefix of the page's language: `/fr`, or nothing. */
  prefix: string;
  /** File of the template at hand; null: none. */
  file: string | null;
  /** Goes up with every change of what is typed. */
  edits: number;
  unsaved: () => { path: string; text: string }[];
  onPage: (path: string) => void;
  onLine: (file: string, line: number) => void;
}

/** An edit is followed once typing rests so long, in milliseconds. */
const rest = 250;

/** The few subjects that together show every outcome of the template at hand, and the extremes: small, live, side by side. */
export function AwkwardPages({ draft, address, tried, prefix, file, edits, unsaved, onPage, onLine }: Props) {
  const [found, setFound] = useState<SurveyLine | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [stopped, setStopped] = useState(false);
  const [again, setAgain] = useState(0);
  const [followed, setFollowed] = useState(edits);
  const now = useRef(unsaved);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => {
    now.current = unsaved;
  });
  const template = file?.endsWith('.html') ? file.slice(0, -5) : null;
  const kind = address.split('?')[0] ?? address;
  const kindOfPage = kind.slice(prefix.length).split('/')[1] ?? '';
  useEffect(() => {
    if (!template) return;
    const asking = new AbortController();
    stop.current = asking;
    const timer = setTimeout(() => {
      setStopped(false);
      setFailure(null);
      setFollowed(edits);
      const ask = { address: kind, try: tried, template, unsaved: now.current() };
      callForLines(benchEndpoints.survey, { draft }, ask, setFound, asking.signal).catch((error: unknown) => {
        if (!asking.signal.aborted) setFailure(messageOf(error));
      });
    }, rest);
    return () => {
      clearTimeout(timer);
      asking.abort();
    };
    // The kind of page is asked about, not the page: another product is no other survey.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [draft, template, tried, edits, again, kindOfPage]);
  if (!template) return <p className="empty-note">Open a template: the pages that show all its outcomes come here.</p>;
  const survey = found?.survey;
  const working = found !== null && !found.done && !stopped;
  return (
    <div className="awkward" aria-label="Awkward pages" role="region">
      <div className="awkward-head" role="status">
        {survey ? (
          <span>
            <strong>{survey.chosen.length}</strong> pages show {survey.outcomes - survey.missing.length} of{' '}
            {survey.outcomes} outcomes of <code>{file}</code>
          </span>
        ) : (
          <span>Looking at every page of this kind…</span>
        )}
        {working && (
          <>
            <Progress
              percent={found.of ? Math.round((survey ? survey.looked / found.of : 0) * 100) : 0}
              size="small"
              style={{ width: 120 }}
            />
            <Button
              size="small"
              onClick={() => {
                stop.current?.abort();
                setStopped(true);
              }}
            >
              Stop
            </Button>
          </>
        )}
        {stopped && (
          <Button size="small" onClick={() => setAgain((one) => one + 1)}>
            Resume
          </Button>
        )}
        {found?.done && <small>{survey?.looked.toLocaleString('en')} looked at</small>}
      </div>
      {failure && <Alert type="error" showIcon title={failure} />}
      {survey && survey.outcomes === 0 && found?.done && (
        <p className="empty-note">
          Nothing in this file depends on the subject, or no page of this kind draws it: go to a page that does.
        </p>
      )}
      {survey && survey.missing.length > 0 && found?.done && (
        <details className="awkward-missing">
          <summary>
            {survey.missing.length} {survey.missing.length === 1 ? 'outcome comes' : 'outcomes come'} on no page
          </summary>
          <ul>
            {survey.missing.map((one) => (
              <li key={`${one.key} ${one.held}`}>
                <button type="button" className="link" onClick={() => onLine(one.file, one.line)}>
                  {outcomeInWords(one)}
                </button>
              </li>
            ))}
          </ul>
        </details>
      )}
      <ul className="awkward-pages">
        {survey?.chosen.map((one) => (
          <SmallPage
            key={one.path}
            draft={draft}
            address={prefix + one.path}
            tried={tried}
            name={one.name}
            reasons={one.reasons}
            file={file as string}
            edits={followed}
            unsaved={unsaved}
            onOpen={() => onPage(prefix + one.path)}
          />
        ))}
      </ul>
    </div>
  );
}

interface SmallProps {
  draft: string;
  address: string;
  tried: string | null;
  name: string;
  reasons: string[];
  file: string;
  edits: number;
  unsaved: () => { path: string; text: string }[];
  onOpen: () => void;
}

/** Width of the window that a small page believes in, in CSS pixels. */
const believed = 1180;

/** One page, small, with the reason that it was chosen; scrolled to what the template at hand made of it. */
function SmallPage({ draft, address, tried, name, reasons, file, edits, unsaved, onOpen }: SmallProps) {
  const { base, origin } = useDraftSite(draft);
  const frame = useRef<HTMLIFrameElement>(null);
  const room = useRef<HTMLDivElement>(null);
  const [scale, setScale] = useState(0.34);
  const [ready, setReady] = useState<{ view: string; shown: string } | null>(null);
  const now = useRef(unsaved);
  const shown = useRef<string | null>(null);
  useEffect(() => {
    now.current = unsaved;
  });
  useEffect(() => {
    const hear = (event: MessageEvent<unknown>) => {
      if (event.source !== frame.current?.contentWindow || event.origin !== origin) return;
      const data = parseFrameMessage(event.data);
      if (data?.kind === 'ready') {
        shown.current = data.shown;
        setReady(data);
      }
    };
    window.addEventListener('message', hear);
    return () => window.removeEventListener('message', hear);
  }, [origin]);
  useEffect(() => {
    if (!room.current) return;
    const observer = new ResizeObserver(([entry]) => entry && setScale(entry.contentRect.width / believed));
    observer.observe(room.current);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!ready) return;
    let over = false;
    const post = (message: ToFrame) => frame.current?.contentWindow?.postMessage({ ...message, last: true }, origin);
    const asked = { view: ready.view, address, try: tried, origin, unsaved: now.current(), shown: shown.current };
    call(benchEndpoints.view, { draft }, asked)
      .then((answer) => {
        if (over) return;
        if (answer.html !== null) {
          shown.current = answer.shown;
          post({ kind: 'show', html: answer.html, shown: answer.shown });
        }
        const { table } = answer;
        const template = table.templates.findIndex((one) => `${one.name}.html` === file);
        const place =
          table.templates[template]?.places.findIndex(
            (one) => one.kind === 'element' && table.sources[one.source]?.file === file,
          ) ?? -1;
        const [to] = place < 0 ? [] : marksOf(table, { template, place });
        if (to) post({ kind: 'outline', marks: [], view: null, to });
      })
      .catch(() => {
        // The page that is worked on says that the server does not answer.
      });
    return () => {
      over = true;
    };
  }, [ready, edits, draft, address, tried, origin, file]);
  return (
    <li>
      <button type="button" className="awkward-name" onClick={onOpen} title={`Go to ${name}`}>
        {name}
      </button>
      <p title={reasons.join('\n')}>{reasons.join(' · ')}</p>
      <div className="awkward-room" ref={room}>
        <iframe
          ref={frame}
          title={name}
          tabIndex={-1}
          loading="lazy"
          sandbox="allow-scripts allow-forms allow-same-origin"
          src={draftAddress(base, address, { try: tried, framed: tellsFramed() })}
          style={{ width: believed, transform: `scale(${scale})`, height: 190 / scale }}
        />
      </div>
    </li>
  );
}
