/** Hashes of files by path. */
export type Hashes = ReadonlyMap<string, string>;

/** What is to be done with a path so that two places hold the same again. */
export interface SyncStep {
  path: string;
  /** `there`: the other place gets what is here; `here`: this one gets what is there; `conflict`: both changed, neither is touched. */
  to: 'there' | 'here' | 'conflict';
  /** The content that is taken over; null: it is removed. Of a conflict the other place's. */
  hash: string | null;
}

/**
 * How two places that were the same once become the same again: what only one changed is taken over, what both changed
 * otherwise is a conflict. `both` is what they had when they were last the same.
 */
export function syncSteps(both: Hashes, here: Hashes, there: Hashes): SyncStep[] {
  const steps: SyncStep[] = [];
  for (const path of [...new Set([...both.keys(), ...here.keys(), ...there.keys()])].sort()) {
    const [was, mine, theirs] = [both, here, there].map((hashes) => hashes.get(path) ?? null) as [
      string | null,
      string | null,
      string | null,
    ];
    if (mine === theirs) continue;
    if (theirs === was) steps.push({ path, to: 'there', hash: mine });
    else if (mine === was) steps.push({ path, to: 'here', hash: theirs });
    else steps.push({ path, to: 'conflict', hash: theirs });
  }
  return steps;
}
