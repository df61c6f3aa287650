const patterns = ['plain', 'slant', 'dots', 'lines', 'cross', 'checks'];

/** A template's sign: colour and pattern together, so that either alone tells them apart. `at` 0 is default. */
export function Swatch({ at }: { at: number }) {
  const pattern = at === 0 ? patterns[0] : patterns[1 + ((at - 1) % (patterns.length - 1))];
  return <span className={`template-swatch template-${pattern}`} aria-hidden="true" />;
}
