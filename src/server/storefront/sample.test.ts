import { describe, expect, it } from 'vitest';
import { browserTree, writtenTree } from '@/core/language/testing/trees';
import { arrangeAt } from '@/server/bench/arrange';
import { stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { pictureOf, samplePictureOf } from './page';

const shop = demoShop();
const draft = stateOf(shop, 'draft/spring');
const bodyOf = (html: string | null) => /<body>([^]*)<\/body>/.exec(html ?? '')?.[1] ?? '';
const { pieces } = arrangeAt(shop, draft, { address: '/category/lamps', try: null, on: null, unsaved: [] });
const offered = pieces.filter(({ takes }) => takes.length > 0);

describe('the picture of a piece that staff may add', () => {
  it.each(offered.map((piece) => [piece.name, piece] as const))('%s shows what its inputs are for', (name, piece) => {
    const html = samplePictureOf(shop, draft, name);
    const body = bodyOf(html);
    expect(body.replace(/<[^>]*>/g, '').trim() + (/<(?:img|hr|iframe|div class)/.exec(body)?.[0] ?? '')).not.toBe('');
    // A text is what staff call it, until they write their own.
    const heading = piece.takes.find(({ type, name: of }) => type === 'text' && of === 'heading');
    if (heading) expect(body).toContain(heading.label);
    expect(browserTree(body, false)).toEqual(writtenTree(body));
  });

  it('has something on the shelves of its own', () =>
    expect(bodyOf(samplePictureOf(shop, draft, 'pieces/row/columns'))).toMatch(/(?:Columns[^]*){2}/));

  it('is of the goods of the shop where it takes goods', () => {
    expect(bodyOf(samplePictureOf(shop, draft, 'pieces/row/products'))).toContain('/product/');
    expect(bodyOf(samplePictureOf(shop, draft, 'pieces/row/banner'))).toContain('<img');
  });

  it('wears the style of the theme, and is its name where nothing comes of samples', () => {
    expect(samplePictureOf(shop, draft, 'pieces/row/banner')).toContain('rel="stylesheet"');
    expect(bodyOf(samplePictureOf(shop, draft, 'pieces/row/film'))).toMatch(/>Film<\/p>$/);
  });

  it('is none of what is no piece', () => {
    expect(samplePictureOf(shop, draft, 'pieces/nowhere')).toBeNull();
    expect(samplePictureOf(shop, draft, 'product/default')).toBeNull();
    expect(pictureOf(shop, draft, 'pieces/tile', '/nowhere')).toBeNull();
  });
});
