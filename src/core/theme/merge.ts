import { diff3Merge } from 'node-diff3';

/** Two texts that come from one, merged by lines. */
export interface Merged {
  text: string;
  /** Stretches that both changed, each otherwise: `mine` stands in the text. */
  overlaps: number;
}

/** Puts together what two people made of one text: what only one changed is taken over; where both did, mine stands. */
export function merged(base: string, mine: string, theirs: string): Merged {
  const lines: string[] = [];
  let overlaps = 0;
  for (const part of diff3Merge(mine.split('\n'), base.split('\n'), theirs.split('\n'), {
    excludeFalseConflicts: true,
  })) {
    if (part.ok) lines.push(...part.ok);
    else if (part.conflict) {
      overlaps++;
      lines.push(...part.conflict.a);
    }
  }
  return { text: lines.join('\n'), overlaps };
}
