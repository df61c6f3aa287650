/** How a template is told from others on the map and in lists: a ground, and a pattern drawn on it; either alone would do. */
export interface Sign {
  ground: string;
  ink: string;
  pattern: SignPattern;
}

/** A pattern as a square tile: a path in its units, drawn as lines of a width, or filled where that is null. */
export interface SignPattern {
  name: string;
  size: number;
  path: string;
  width: number | null;
}

const plain: SignPattern = { name: 'plain', size: 8, path: '', width: null };

export const signPatterns: readonly SignPattern[] = [
  { name: 'slant', size: 8, path: 'M-2 2L2 -2M0 8L8 0M6 10L10 6', width: 2 },
  { name: 'dots', size: 8, path: 'M4 2.2a1.8 1.8 0 1 1 0 3.6a1.8 1.8 0 1 1 0 -3.6z', width: null },
  { name: 'bars', size: 8, path: 'M4 0V8', width: 2.4 },
  { name: 'net', size: 10, path: 'M0 0L10 10M10 0L0 10', width: 1.6 },
  { name: 'checks', size: 10, path: 'M0 0H5V5H0zM5 5H10V10H5z', width: null },
  { name: 'waves', size: 12, path: 'M-1 4Q2 -1 6 4T13 4M-1 10Q2 5 6 10T13 10', width: 1.8 },
];

/** Of the default first. Chosen so that any two differ to every kind of colour vision: a test computes it. */
export const signGrounds: readonly string[] = [
  '#f0e6d0',
  '#a5521b',
  '#8fb4e0',
  '#5a2d6e',
  '#4f8f86',
  '#262320',
  '#e6a52e',
];
const inks: readonly string[] = ['#f0e6d0', '#5f2b09', '#2d5078', '#d9c2e6', '#1f4a43', '#d8cfc0', '#7a4d00'];

/** The sign of the template at a place of its target's list; 0 is the default. Thirty-six alternates have each their own. */
export function signOf(at: number): Sign {
  if (at <= 0) return { ground: signGrounds[0] as string, ink: inks[0] as string, pattern: plain };
  const count = signPatterns.length;
  const colour = 1 + ((at - 1) % (signGrounds.length - 1));
  const turn = Math.floor((at - 1) / (signGrounds.length - 1));
  return {
    ground: signGrounds[colour] as string,
    ink: inks[colour] as string,
    pattern: signPatterns[(at - 1 + turn) % count] as SignPattern,
  };
}
