import { describe, expect, it } from 'vitest';
import { survey, type SurveyAsk } from './survey';
import { demoShop } from '@/server/testing/demo-shop';
import { viewPage } from './preview';
import { draftOf } from '@/server/shop/states';
import { linesOf } from '@/core/inspect/why';
import type { Survey } from '@/core/inspect/awkward';

const shop = demoShop();
const draft = draftOf(shop, 'spring');

function surveyed(path: string, template: string, unsaved: SurveyAsk['unsaved'] = []): Survey {
  const steps = [...survey(shop, draft, { path, tried: null, template, unsaved }, () => 0)];
  const last = steps[steps.length - 1];
  if (!last?.done) throw new Error('The survey did not end');
  return last.survey;
}

/** Outcomes of a file that these pages really give, by rendering each whole. */
function given(paths: string[], file: string, unsaved: SurveyAsk['unsaved'] = []): Set<string> {
  const found = new Set<string>();
  for (const address of paths) {
    const asked = {
      view: null,
      address,
      try: null,
      origin: 'http://localhost:4171',
      unsaved: [...unsaved],
      shown: null,
      open: null,
    };
    for (const [line, { outcomes }] of linesOf(viewPage(shop, draft, asked).table, file, null))
      for (const { held, not, place } of outcomes) {
        if (held) found.add(`${line} ${place.from} held`);
        if (not) found.add(`${line} ${place.from} not`);
      }
  }
  return found;
}

const all = shop.sql.all<{ slug: string }>('SELECT slug FROM product').map(({ slug }) => `/product/${slug}`);

describe('awkward pages', () => {
  for (const template of ['product/default', 'pieces/stock', 'pieces/price', 'pieces/gallery']) {
    it(`of ${template} together give every outcome that any product gives`, () => {
      const { chosen, looked } = surveyed('/product/deck-oil', template);
      expect(looked).toBe(all.length);
      expect(chosen.length).toBeLessThanOrEqual(8);
      const file = `${template}.html`;
      expect(
        given(
          chosen.map(({ path }) => path),
          file,
        ),
      ).toEqual(given(all, file));
    });
  }

  it('are chosen with a reason each, the extremes among them', () => {
    const { chosen } = surveyed('/product/deck-oil', 'product/default');
    expect(chosen.every(({ reasons }) => reasons.length > 0)).toBe(true);
    expect(chosen.flatMap(({ reasons }) => reasons)).toContain('the longest name');
  });

  it('list the outcomes that nothing gives', () => {
    const unsaved = [
      {
        path: 'product/default.html',
        text: '<draw name="layouts/shop" title="x"><p do:when="product.price > 0">a</p><p do:when="product.name == \'nothing is called this\'">b</p></draw>',
      },
    ];
    const { missing } = surveyed('/product/deck-oil', 'product/default', unsaved);
    expect(missing.map(({ text, held }) => [text, held])).toContainEqual([
      "product.name == 'nothing is called this'",
      true,
    ]);
  });

  it('are found for categories, content and listings too', () => {
    expect(surveyed('/category/cleats', 'category/default').looked).toBe(
      shop.sql.get<{ n: number }>('SELECT count(*) AS n FROM category')?.n,
    );
    expect(surveyed('/content/care', 'content/default').chosen.length).toBeGreaterThan(0);
    expect(surveyed('/listing/all', 'pieces/tile').outcomes).toBeGreaterThan(4);
  });
});
