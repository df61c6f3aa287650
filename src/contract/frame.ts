/**
 * What the Bench and the page in its frame say to each other, by `postMessage`. The frame has an origin of its own; the
 * Bench hears only its own frames, and the frame only the window around it.
 */

/** Where something stands in the frame's window, in its CSS pixels. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A mark of the page, and the view of the served piece that it came with (null: the page's own). */
export interface Pointed {
  mark: string;
  view: string | null;
  box: Box;
}

export type FromFrame =
  | { kind: 'ready'; address: string; view: string; shown: string }
  /** The address changed without a new page: a choice was made by script. */
  | { kind: 'moved'; address: string }
  | { kind: 'scroll'; x: number; y: number }
  | { kind: 'placed' }
  /** A newer page was put in place of the one shown, and painted. */
  | { kind: 'shown'; shown: string; scripts: boolean }
  | { kind: 'pointed'; at: Pointed | null; held: boolean }
  | { kind: 'picked'; at: Pointed }
  | { kind: 'pointing'; on: boolean }
  /** A key that is the workbench's, pressed in the page. */
  | { kind: 'key'; key: string; ctrl: boolean; shift: boolean; alt: boolean }
  | ({ kind: 'matched'; id: number } & Matched)
  | { kind: 'alive' };

export type ToFrame =
  | { kind: 'scroll'; x: number; y: number }
  | { kind: 'show'; html: string; shown: string }
  | { kind: 'point'; on: boolean }
  /** How much smaller the page is shown than it believes: what is drawn over it is drawn larger by as much. */
  | { kind: 'scale'; scale: number }
  /** What is said beside what is pointed at. */
  | { kind: 'label'; mark: string; text: string }
  /** Outlines these marks; `to` is scrolled to. */
  | { kind: 'outline'; marks: string[]; view: string | null; to: string | null }
  | { kind: 'match'; id: number; mark: string; view: string | null; rules: AskedRule[] }
  | { kind: 'alive' };

/** A rule of a style sheet, to be held against an element: selectors, and the conditions around (`@media`), outermost first. */
export interface AskedRule {
  selectors: string[];
  conditions: { name: string; text: string }[];
}

/** What a browser says of an element: the rules that match, what it is, and the custom properties of the page. */
export interface Matched {
  rules: MatchedRule[];
  element: { name: string; classes: string[]; around: string[] } | null;
  /** Values of custom properties of the page, by name: what the look and the sheets give. */
  properties: Record<string, string>;
}

/** Which of a rule's selectors match the element, or its ancestors (how far up; 0: itself), and whether its conditions hold. */
export interface MatchedRule {
  rule: number;
  selectors: number[];
  up: number;
  holds: boolean;
}

export const said = (message: FromFrame): FromFrame & { last: true } => ({ ...message, last: true });
