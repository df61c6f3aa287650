'use client';
import { startTransition, useCallback, useEffect, useRef, useState } from 'react';
import { benchEndpoints, type ViewAnswer } from '@/contract/bench';
import { call, ApiError, messageOf } from '@/ui/shared';

interface Asked {
  draft: string;
  origin: string;
  /** Path and query of the page, without the draft's prefix. */
  address: string;
  tried: string | null;
  /** The day that the page is shown as of; null: today. */
  on: string | null;
  /** The file that is open, when the shop may write it. */
  open: string | null;
}

/** Pages are made no more often than this, in milliseconds: a lone keystroke does not wait. */
const between = 90;
/** With a long text (in UTF-16 units) pages are made once typing rests so long, in milliseconds. */
const restLong = 200;
const longText = 20_000;

const isLong = (texts: readonly { text: string }[]): boolean => texts.some(({ text }) => text.length > longText);
const sleep = (time: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, time));

/** What the frame shows: its view, and the name of the page as it was made. */
export interface Framed {
  view: string;
  shown: string;
  address: string;
}

export interface ViewState {
  answer: ViewAnswer | null;
  /** Why there is no newer one. */
  failure: string | null;
  offline: boolean;
}

/**
 * The page that is worked on, made again with each change of what is typed: one request at a time, the newest text next.
 * `unsaved` gives the texts that are not saved; `onHtml` shows a page in the frame.
 */
export function useView(
  asked: Asked,
  unsaved: () => { path: string; text: string }[],
  onHtml: (html: string, shown: string) => void,
) {
  const [state, setState] = useState<ViewState>({ answer: null, failure: null, offline: false });
  const framed = useRef<Framed | null>(null);
  const flying = useRef(false);
  const wanted = useRef(false);
  const began = useRef(0);
  const lastAsked = useRef(0);
  /** How long the last one took, in milliseconds: large ones are made less often. */
  const took = useRef(0);
  const now = useRef({ asked, unsaved, onHtml });
  useEffect(() => {
    now.current = { asked, unsaved, onHtml };
  });
  const again = useRef<ReturnType<typeof setTimeout> | null>(null);

  const ask = useCallback(async () => {
    if (flying.current) return;
    flying.current = true;
    while (wanted.current) {
      wanted.current = false;
      // Letters that follow one another quickly are shown together.
      const pause = Math.max(between, took.current * 2) - (performance.now() - began.current);
      if (pause > 0) await sleep(pause);
      // Sending and reading a long text takes from typing: it waits until typing rests.
      if (isLong(now.current.unsaved()))
        while (performance.now() - lastAsked.current < restLong) await sleep(restLong / 4);
      began.current = performance.now();
      wanted.current = false;
      const { asked: to, unsaved: texts } = now.current;
      const frame = framed.current?.address === to.address ? framed.current : null;
      try {
        const answer = await call(
          benchEndpoints.view,
          { draft: to.draft },
          {
            view: frame?.view ?? null,
            address: to.address,
            try: to.tried,
            on: to.on,
            origin: to.origin,
            unsaved: texts(),
            open: to.open,
            shown: frame?.shown ?? null,
          },
        );
        took.current = performance.now() - began.current;
        const current = now.current.asked;
        if (
          current.address !== to.address ||
          current.tried !== to.tried ||
          current.on !== to.on ||
          current.draft !== to.draft
        )
          continue;
        const still = framed.current?.address === to.address ? framed.current : null;
        if (answer.html !== null && still) {
          still.shown = answer.shown;
          now.current.onHtml(answer.html, answer.shown);
        }
        // Not in the way of typing.
        startTransition(() =>
          setState((before) => {
            const same =
              before.answer?.shown === answer.shown && !before.failure && !before.answer.broken && !answer.broken;
            // Nothing that is shown changed, and no place that is reported: the file that is typed in is not part of the page.
            if (
              same &&
              !answer.table.sources.some(({ file }) => file === to.open) &&
              JSON.stringify(before.answer?.page) === JSON.stringify(answer.page)
            )
              return before;
            return {
              // While a template cannot be shown, the last good page stays with all that its marks speak of.
              answer: answer.broken && before.answer?.page ? { ...before.answer, broken: answer.broken } : answer,
              failure: null,
              offline: false,
            };
          }),
        );
      } catch (error) {
        const offline = error instanceof ApiError && error.status === 0;
        setState((before) => ({ ...before, failure: messageOf(error), offline }));
        if (offline) {
          if (again.current) clearTimeout(again.current);
          again.current = setTimeout(() => {
            wanted.current = true;
            void ask();
          }, 1500);
        }
      }
    }
    flying.current = false;
  }, []);

  const make = useCallback(() => {
    lastAsked.current = performance.now();
    wanted.current = true;
    void ask();
  }, [ask]);

  const { draft, address, tried, on, origin } = asked;
  useEffect(() => {
    make();
  }, [make, draft, address, tried, on, origin]);
  useEffect(() => () => void (again.current && clearTimeout(again.current)), []);

  /** The frame shows another page now. */
  const onFramed = useCallback(
    (frame: Framed) => {
      framed.current = frame;
      make();
    },
    [make],
  );
  return { ...state, make, onFramed };
}
