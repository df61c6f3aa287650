import { z } from 'zod';

/**
 * What a page in a frame of the Bench may say to it. The theme's scripts run there too: the Bench hears only its own frames,
 * takes only what has this form, and does on a frame's word nothing but show where one stands, what is pointed at, which page
 * it is.
 */

const length = z.number().min(-10_000_000).max(10_000_000);
const address = z.string().startsWith('/').max(4000);
const mark = z.string().max(60);
const view = z.string().max(40);

/** Where something stands in the frame's window, in its CSS pixels. */
const box = z.object({ x: length, y: length, width: length, height: length });
export type Box = z.output<typeof box>;

/** A mark of the page, and the view of the served piece that it came with (null: the page's own). */
const pointed = z.object({ mark, view: view.nullable(), box });
export type Pointed = z.output<typeof pointed>;

/** Which of a rule's selectors match the element, or its ancestors (how far up; 0: itself), and whether its conditions hold. */
const matchedRule = z.object({
  rule: z.int().min(0),
  selectors: z.array(z.int().min(0)).max(1000),
  up: z.int().min(0),
  holds: z.boolean(),
});
export type MatchedRule = z.output<typeof matchedRule>;

/** What a browser says of an element: the rules that match, what it is, and the custom properties of the page. */
const matched = z.object({
  rules: z.array(matchedRule).max(20_000),
  element: z
    .object({
      name: z.string().max(100),
      classes: z.array(z.string().max(1000)).max(1000),
      around: z.array(z.string().max(100)).max(1000),
    })
    .nullable(),
  /** Values of custom properties of the page, by name: what the look and the sheets give. */
  properties: z.record(z.string().max(200), z.string().max(5000)),
});
export type Matched = z.output<typeof matched>;

/** Keys of the workbench, `F6` and the rest with Ctrl, that may be pressed in a page: they go somewhere, and change nothing. */
const key = z.enum(['k', 'p', '.', 'i', 'F6']);

const last = { last: z.literal(true) };
export const fromFrame = z.discriminatedUnion('kind', [
  z.object({ ...last, kind: z.literal('ready'), address, view, shown: z.string().max(100) }),
  /** The address changed without a new page: a choice was made by script. */
  z.object({ ...last, kind: z.literal('moved'), address }),
  z.object({ ...last, kind: z.literal('scroll'), x: length, y: length }),
  z.object({ ...last, kind: z.literal('placed') }),
  /** A newer page was put in place of the one shown, and painted. */
  z.object({ ...last, kind: z.literal('shown'), shown: z.string().max(100), scripts: z.boolean() }),
  z.object({ ...last, kind: z.literal('pointed'), at: pointed.nullable(), held: z.boolean() }),
  z.object({ ...last, kind: z.literal('picked'), at: pointed }),
  z.object({ ...last, kind: z.literal('pointing'), on: z.boolean() }),
  /** A key that is the workbench's, pressed in the page. */
  z.object({ ...last, kind: z.literal('key'), key }),
  z.object({ ...last, kind: z.literal('matched'), id: z.int(), ...matched.shape }),
  /** The sign of a comment was pressed. */
  z.object({ ...last, kind: z.literal('commented'), id: z.int() }),
  z.object({ ...last, kind: z.literal('alive') }),
]);
/** What a page in a frame of the Bench says. */
export type FromFrame = Said<z.output<typeof fromFrame>>;
type Said<M> = M extends unknown ? Omit<M, 'last'> : never;

/** A message as a frame sent it; null for anything else. */
export function parseFrameMessage(data: unknown): FromFrame | null {
  const read = fromFrame.safeParse(data);
  return read.success ? read.data : null;
}
