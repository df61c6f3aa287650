/** A known name near a wrong one. `certain`: no other is as near, and it is near enough to be meant. */
export interface Near {
  name: string;
  certain: boolean;
}

/** The known name nearest to a wrong one; null when none is near (edit distance over a third of its length). */
export function nearestOf(name: string, known: Iterable<string>): Near | null {
  // Of two letters everything is near.
  if (name.length < 3) return null;
  let best: Near | null = null;
  let least = Math.max(1, Math.floor(name.length / 3)) + 1;
  for (const candidate of known) {
    if (Math.abs(candidate.length - name.length) > least) continue;
    const distance = editDistance(name, candidate);
    if (distance < least) {
      // A short name that is one sign off may mean another just as well.
      const sure = distance <= 2 && (name.length > 3 || sameLetters(name, candidate));
      best = { name: candidate, certain: sure };
      least = distance;
    } else if (best && distance === least && candidate !== best.name) best.certain = false;
  }
  return best;
}

/** Whether two names differ in capitals or in the order of their letters only. */
const sameLetters = (a: string, b: string): boolean =>
  [...a.toLowerCase()].sort().join('') === [...b.toLowerCase()].sort().join('');

/** The same as a bare name; '' when none is near. */
export function nearest(name: string, known: Iterable<string>): string {
  return nearestOf(name, known)?.name ?? '';
}

/** Damerau's distance over adjacent swaps (optimal string alignment), two rows kept. */
function editDistance(a: string, b: string): number {
  let before: number[] = [];
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      const cost = a[i - 1] === b[j - 1] ? 0 : 1;
      let d = Math.min((row[j] as number) + 1, (next[j - 1] as number) + 1, (row[j - 1] as number) + cost);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        d = Math.min(d, (before[j - 2] as number) + 1);
      next.push(d);
    }
    before = row;
    row = next;
  }
  return row[b.length] as number;
}
