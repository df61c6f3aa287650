import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { anchorOf, findAnchor } from './anchor';

const page = `<draw name="layouts/shop" title="{product.name}">
  <h1 class="name">{product.name}</h1>
  <p class="price">{product.price}</p>
  <ul class="facts">
    <li>{product.weight}</li>
    <li>{product.length}</li>
  </ul>
  <p class="note">Sent within two days</p>
</draw>
`;
const at = (text: string, part: string) => anchorOf(text, text.indexOf(part), text.indexOf(part) + part.length);
/** What stands where it is found now; null: it is gone. */
function now(anchor: ReturnType<typeof anchorOf>, text: string, elsewhere: string[] = []): [string, boolean] | null {
  const texts = [{ text, own: true }, ...elsewhere.map((other) => ({ text: other, own: false }))];
  const found = findAnchor(anchor, texts);
  return found && [texts[found.at]?.text.slice(found.from, found.to) ?? '', found.same];
}

const price = '<p class="price">{product.price}</p>';
const weight = '<li>{product.weight}</li>';
const note = '<p class="note">Sent within two days</p>';

describe('an anchor finds its place', () => {
  it.each<[string, string, (text: string) => string, [string, boolean] | null]>([
    ['as it was', price, (text) => text, [price, true]],
    ['with more before it', price, (text) => `<!--: one\ntwo :-->\n${text}`, [price, true]],
    [
      'moved down',
      price,
      (text) => text.replace(`  ${price}\n`, '').replace(note, `${note}\n  ${price}`),
      [price, true],
    ],
    [
      'with another like it before it',
      weight,
      (text) => text.replace('<ul class="facts">', `<ul><li>{product.weight}</li></ul>\n  <ul class="facts">`),
      [weight, true],
    ],
    [
      'changed a little',
      note,
      (text) => text.replace('Sent within two days', 'Sent within three days'),
      ['<p class="note">Sent within three days</p>', false],
    ],
    [
      'become something else',
      price,
      (text) => text.replace(price, '<div class="cost"><b>{format(product.price)}</b></div>'),
      ['<div class="cost"><b>{format(product.price)}</b></div>', false],
    ],
    ['gone, where it was removed', price, (text) => text.replace(`  ${price}\n`, ''), null],
    [
      'gone, where a shorter one like it stands elsewhere',
      weight,
      (text) => text.replace(`    ${weight}\n`, '') + weight,
      null,
    ],
    ['gone, with its file', price, () => '', null],
  ])('%s', (_, part, change, wanted) => expect(now(at(page, part), change(page))).toEqual(wanted));

  it('in another file, where it was moved whole', () =>
    expect(
      now(at(page, note), page.replace(note, '<draw name="pieces/sent"></draw>'), [price, `<div>\n${note}\n</div>`]),
    ).toEqual([note, true]));

  it('in its own file before another, where it stands in both', () =>
    expect(now(at(page, note), `${note}${page.replace(note, '')}`, [page])).toEqual([note, true]));

  it('changed in its own file, before as it was in another of its own', () => {
    const changed = page.replace('two days', 'three days');
    const found = findAnchor(
      at(page, note),
      [changed, page].map((text) => ({ text, own: true })),
    );
    expect([found?.at, found?.same]).toEqual([0, false]);
  });

  it('by its beginning, of something long', () => {
    const long = `<section>${'<p>A long stretch of text.</p>\n'.repeat(60)}</section>`;
    const found = findAnchor(at(`<h1>Top</h1>\n${long}`, long), [{ text: `<h1>Another</h1>\n\n${long}`, own: true }]);
    expect([found?.from, found?.same]).toEqual([18, true]);
  });
});

describe('in the templates of the demo', () => {
  const files = ['layouts', 'pieces', 'product', 'category'].flatMap((folder) => {
    const of = join('themes/quay-1.0', folder);
    return readdirSync(of)
      .filter((name) => name.endsWith('.html'))
      .map((name) => readFileSync(join(of, name), 'utf8'));
  });
  let seed = 20261130;
  const random = (below: number): number => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return seed % below;
  };

  it('every element is found again after ten changes elsewhere in its file', () => {
    const missed: string[] = [];
    let looked = 0;
    for (const text of files)
      for (const tag of text.matchAll(/<[a-z][^>]*>/g)) {
        const to = Math.min(text.length, tag.index + tag[0].length + 20);
        const anchor = anchorOf(text, tag.index, to);
        // The place is followed change by change: none of them touches it.
        let [now, from] = [text, tag.index];
        for (let turn = 0; turn < 10; turn++) {
          const spot = random(now.length + 1);
          const cut = random(30);
          if (spot <= from - cut || spot >= from + (to - tag.index)) {
            const put = 'x<i>changed</i>'.slice(0, random(15));
            now = now.slice(0, spot) + put + now.slice(spot + cut);
            if (spot < from) from += put.length - cut;
          }
        }
        const found = findAnchor(anchor, [{ text: now, own: true }]);
        looked++;
        if (found?.from !== from) missed.push(`${tag[0]} at ${from}: ${found?.from}`);
      }
    expect(looked).toBeGreaterThan(300);
    // Where all that tells two alike apart was changed, the other may be taken.
    expect(missed.length / looked).toBeLessThan(0.02);
  });
});
