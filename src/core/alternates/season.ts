/** Days on which something is in force: from the first to the last, both included; null: without that end. Days as `2026-12-01`. */
export interface Season {
  from: string | null;
  to: string | null;
  /** The same stretch of each year from the first on; it needs both days. */
  yearly?: boolean | undefined;
}

const dayMs = 86_400_000;

/** The day so many days later. */
export const dayAfter = (day: string, more: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + more * dayMs).toISOString().slice(0, 10);

const lengthOf = (from: string, to: string): number => (Date.parse(to) - Date.parse(from)) / dayMs;

/** Whether a season holds on a day. */
export function inSeason(season: Season, day: string): boolean {
  const { from, to, yearly } = season;
  if (from !== null && day < from) return false;
  if (!yearly || from === null || to === null) return to === null || day <= to;
  if (lengthOf(from, to) >= 365) return true;
  const [first, last, now] = [from.slice(5), to.slice(5), day.slice(5)];
  // One that goes over the turn of the year is in both of its ends.
  return first <= last ? first <= now && now <= last : first <= now || now <= last;
}

/** Where a day stands to a season: in it, before it begins, or after it; of a yearly one that is over this year, before the next. */
export function seasonOn(season: Season, day: string): 'in' | 'before' | 'after' {
  if (inSeason(season, day)) return 'in';
  return season.yearly || (season.from !== null && day < season.from) ? 'before' : 'after';
}

/** The days after one and up to another on which a season begins, or is over. */
export function turnsOf(season: Season, after: string, last: string): string[] {
  const { from, to, yearly } = season;
  const found: string[] = [];
  if (!yearly || from === null || to === null) {
    if (from !== null) found.push(from);
    if (to !== null) found.push(dayAfter(to, 1));
  } else {
    for (let year = Number(after.slice(0, 4)) - 1; year <= Number(last.slice(0, 4)); year++) {
      const begins = `${year}${from.slice(4)}`;
      if (begins < from) continue;
      found.push(real(begins), dayAfter(real(`${year + (to.slice(5) < from.slice(5) ? 1 : 0)}${to.slice(4)}`), 1));
    }
  }
  return [...new Set(found)].filter((day) => day > after && day <= last).sort();
}

/** The 29th of February of a year without one is the 1st of March, as days are compared. */
const real = (day: string): string =>
  new Date(Date.parse(`${day.slice(0, 8)}01T00:00:00Z`) + (Number(day.slice(8)) - 1) * dayMs)
    .toISOString()
    .slice(0, 10);
