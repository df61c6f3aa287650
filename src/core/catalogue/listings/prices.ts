/** A range of price in minor units: from (included) to (not included; null: no end). */
export type PriceRange = readonly [from: number, to: number | null];

export const within = (price: number, [from, to]: PriceRange): boolean => price >= from && (to === null || price < to);

/** Ranges that meet at round figures near the quarters of these prices, so that each holds some; none for a few prices. */
export function priceRanges(prices: Float64Array): PriceRange[] {
  const known = prices.filter((price) => !Number.isNaN(price)).sort();
  if (known.length < 4) return [];
  const at = (share: number) => roundFigure(known[Math.floor(known.length * share)] as number);
  const bounds = [...new Set([at(0.25), at(0.5), at(0.75)])].filter(
    (bound) => bound > (known[0] as number) && bound <= (known[known.length - 1] as number),
  );
  if (!bounds.length) return [];
  return [0, ...bounds].map((from, n) => [from, bounds[n] ?? null] as const);
}

/** The nearest of 1, 1.5, 2, 2.5, 3, 4, 5, 6, 8 times a power of ten. */
function roundFigure(amount: number): number {
  if (amount < 1) return 1;
  const power = 10 ** Math.floor(Math.log10(amount));
  const steps = [1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10].map((step) => Math.max(1, Math.round(step * power)));
  return steps.reduce((best, step) => (Math.abs(step - amount) < Math.abs(best - amount) ? step : best));
}
