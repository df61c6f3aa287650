import type { FromFrame } from './from-frame';

/** What the Bench and the page in its frame say to each other, by `postMessage`; what comes from the frame is held to a schema. */
export type { Box, FromFrame, Matched, MatchedRule, Pointed } from './from-frame';

/** By this a page in the Bench's frame says which view it is, when its scripts fetch a piece. */
export const viewHeader = 'x-last-view';

export type ToFrame =
  | { kind: 'scroll'; x: number; y: number }
  | { kind: 'show'; html: string; shown: string }
  /** `at`: the mark that was pointed at on the page that this one took the place of. */
  | { kind: 'point'; on: boolean; at?: string }
  /** How much smaller the page is shown than it believes: what is drawn over it is drawn larger by as much. */
  | { kind: 'scale'; scale: number }
  /** What is said beside what is pointed at. */
  | { kind: 'label'; mark: string; text: string }
  /** Outlines these marks; `to` is scrolled to. */
  | { kind: 'outline'; marks: string[]; view: string | null; to: string | null }
  /** Shows where shelves with nothing on them stand, by name. */
  | { kind: 'shelves'; shelves: { mark: string; label: string }[] }
  /** Shows where comments stand, each with its number. */
  | { kind: 'comments'; comments: { id: number; mark: string; label: string }[] }
  | { kind: 'match'; id: number; mark: string; view: string | null; rules: AskedRule[] }
  | { kind: 'alive' };

/** A rule of a style sheet, to be held against an element: selectors, and the conditions around (`@media`), outermost first. */
export interface AskedRule {
  selectors: string[];
  conditions: { name: string; text: string }[];
}

export const frameMessage = (message: FromFrame): FromFrame & { last: true } => ({ ...message, last: true });
