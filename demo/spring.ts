import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { inProgram } from '@/server/jobs';

/** Files of a draft that were saved together. */
export interface Work {
  title: string;
  files: { path: string; text: string }[];
}

const file = (path: string) => ({ path, text: readFileSync(join(inProgram('demo/spring'), path), 'utf8') });

/** A JSON file of the shop's layer, changed. */
function changed<T>(path: string, change: (read: T) => void): { path: string; text: string } {
  const read = JSON.parse(readFileSync(join(inProgram('themes/withy-quay'), path), 'utf8')) as T;
  change(read);
  return { path, text: `${JSON.stringify(read, null, 2)}\n` };
}

type Words = { product: Record<string, unknown> };

/** What is under way in the demo's draft: three alternates, an amendment, a placement for one category, and one problem to fix. */
export const springWork = (): Work[] => [
  {
    title: 'Alternates for load-rated goods, for books, and for finishes',
    files: [
      file('alternates.json'),
      file('product/book.html'),
      file('product/load-rated.html'),
      file('category/with-guide.html'),
      changed<Words>('words/en.json', ({ product }) => Object.assign(product, { holds: 'Holds {load} kN' })),
      changed<Words>('words/fr.json', ({ product }) =>
        Object.assign(product, { holds: 'Charge de rupture\u00a0: {load} kN' }),
      ),
    ],
  },
  { title: 'Tiles say what a rope holds', files: [file('pieces/tile.html')] },
  {
    title: 'A notice above the anchors',
    files: [
      changed<{ placements: object[] }>('shelves.json', ({ placements }) =>
        placements.push({
          id: 'anchors-in-spring',
          shelf: 'category-top',
          piece: 'pieces/notice',
          inputs: { text: 'New anchors come in March. Write to us, and we put one aside for you.' },
          subject: 'category/anchors',
        }),
      ),
    ],
  },
];
