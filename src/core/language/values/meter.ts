/** Who counts the work that values make, and ends what takes too much. */
export interface Meter {
  /** Charges work before it is done, in steps: a step is about what one turn of a plain loop takes. */
  work(steps: number): void;
  /** Charges a text or list of this size (UTF-16 units or items) before it is made. */
  charge(size: number): void;
}

/** A text of this length or shorter is looked through within a step. */
const shortText = 256;

/** Charges for looking through a text. */
export function workOn(text: string, meter: Meter | null): void {
  if (text.length > shortText) meter?.work(text.length >> 4);
}

/** For values outside a page, which nobody attacks: counts nothing. */
export const unmetered: Meter = { work() {}, charge() {} };
