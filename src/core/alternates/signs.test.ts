import {
  differenceCiede2000,
  filterDeficiencyDeuter,
  filterDeficiencyProt,
  filterDeficiencyTrit,
  parse,
  type Color,
} from 'culori';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { signGrounds, signOf, signPatterns, type SignPattern } from './signs';

/**
 * Outside check: colour-vision deficiencies by Machado, Oliveira and Fernandes, “A Physiologically-based Model for Simulation
 * of Color Vision Deficiency” (2009), and the difference by CIEDE2000, both as the package culori has them. A difference of
 * about 2 is just seen side by side (common practice); on a map, away from each other, we want many times that.
 */
describe('colours of templates', () => {
  const sights: [string, (color: Color) => Color][] = [
    ['full colour vision', (color) => color],
    ['without the cones for red', filterDeficiencyProt(1)],
    ['without the cones for green', filterDeficiencyDeuter(1)],
    ['without the cones for blue', filterDeficiencyTrit(1)],
  ];
  const differ = differenceCiede2000();
  // As they are, and dimmed by a seventh, as the dark side shows them.
  const dimmed = (colour: string) =>
    `#${[1, 3, 5]
      .map((at) =>
        Math.round(parseInt(colour.slice(at, at + 2), 16) * 0.85)
          .toString(16)
          .padStart(2, '0'),
      )
      .join('')}`;
  for (const [name, see, grounds] of sights.flatMap(([name, see]) => [
    [name, see, signGrounds] as const,
    [`${name}, dimmed`, see, signGrounds.map(dimmed)] as const,
  ])) {
    it(`any two differ: ${name}`, () => {
      for (const [at, one] of grounds.entries())
        for (const other of grounds.slice(at + 1)) {
          const [a, b] = [one, other].map((colour) => see(parse(colour) as Color)) as [Color, Color];
          expect(differ(a, b), `${one} ${other}`).toBeGreaterThan(12);
        }
    });
  }
});

describe('patterns of templates', () => {
  const side = 120;
  /** A field of a pattern in black on white, as numbers. */
  async function field({ size, path, width }: SignPattern): Promise<Uint8Array> {
    const style = width === null ? 'fill="#000"' : `fill="none" stroke="#000" stroke-width="${width}"`;
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}"><defs><pattern id="p" width="${size}" height="${size}" patternUnits="userSpaceOnUse"><path d="${path}" ${style}/></pattern></defs><rect width="100%" height="100%" fill="#fff"/><rect width="100%" height="100%" fill="url(#p)"/></svg>`;
    return new Uint8Array(await sharp(Buffer.from(svg)).greyscale().raw().toBuffer());
  }
  it('any two differ without colours, however they are moved over each other', async () => {
    const fields = await Promise.all(signPatterns.map(field));
    for (let a = 0; a < fields.length; a++)
      for (let b = a + 1; b < fields.length; b++) {
        let least = 1;
        for (let dx = 0; dx < 12; dx++)
          for (let dy = 0; dy < 12; dy++) {
            let sum = 0;
            for (let y = 0; y < side - 12; y++)
              for (let x = 0; x < side - 12; x++)
                sum += Math.abs((fields[a]?.[y * side + x] ?? 0) - (fields[b]?.[(y + dy) * side + x + dx] ?? 0));
            least = Math.min(least, sum / 255 / (side - 12) ** 2);
          }
        expect(least, `${signPatterns[a]?.name} ${signPatterns[b]?.name}`).toBeGreaterThan(0.15);
      }
  });
  it('thirty-six alternates have each a sign of their own', () => {
    const signs = Array.from({ length: 37 }, (_, at) => `${signOf(at).ground} ${signOf(at).pattern.name}`);
    expect(new Set(signs).size).toBe(37);
  });
});
