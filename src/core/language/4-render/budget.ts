/** Thrown where a page may not go on. No Error: a page that runs into its budget again and again must not pay for stacks that nobody reads. */
export class OverBudget {
  constructor(
    readonly message: string,
    /** Whether the clock ended it: such a page may come out differently the next time. */
    readonly byTime = false,
  ) {}
}

/** The largest page, in UTF-16 units. */
export const maxPage = 2_000_000;
/** The largest text or list that a page makes on its way, in UTF-16 units or items. */
export const maxText = 1_000_000;
/** Steps of a page: turns of loops, draws, items that filters and comparisons go through. */
export const maxSteps = 1_000_000;
/** Draws inside draws. */
export const maxDraws = 32;
/** A clock is looked at once in so many steps. */
export const stepsPerLook = 256;
/** Frames of a preview: draws, turns of loops and fills, each with a table entry. */
export const maxFrames = 40_000;
/** Conditions and loops of which a preview tells how they came out. */
export const maxOutcomes = 100_000;
/** Notices in a preview where a piece was left out. */
export const maxNotices = 200;
