/** An outcome of a template: a condition that held or did not, a list that had items or none. */
export interface OutcomeOf {
  key: string;
  /** As written: `product.was_price`. */
  text: string;
  file: string;
  line: number;
  held: boolean;
  loop: boolean;
}

/** An outcome in words: “no product.was_price (line 7)”. */
export function outcomeInWords({ text, line, held, loop }: OutcomeOf): string {
  const at = ` (line ${line})`;
  if (text === 'otherwise') return `${held ? 'the other case' : 'not the other case'}${at}`;
  if (loop) return `${held ? 'items in' : 'nothing in'} ${text}${at}`;
  return /^[\w.[\]]+$/.test(text)
    ? `${held ? 'with' : 'no'} ${text}${at}`
    : `${text} ${held ? 'holds' : 'does not hold'}${at}`;
}
