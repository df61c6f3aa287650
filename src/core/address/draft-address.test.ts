import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draftAddress, pageOfDraft, type DraftView } from './draft-address';

/** By a host name of its own, and below an origin that all drafts share. */
const named = 'http://spring.localhost:4171';
const below = 'http://192.0.2.7:4172/draft/spring';

describe('the address of a draft’s page', () => {
  const made: [page: string, view: DraftView, address: string][] = [
    ['/', {}, '/'],
    ['/product/deck-oil', {}, '/product/deck-oil'],
    ['/product/deck-oil', { try: 'rated' }, '/product/deck-oil?try=rated'],
    ['/listing/search?q=rope', { try: 'x', on: '2026-12-01' }, '/listing/search?q=rope&try=x&on=2026-12-01'],
    ['/product/deck-oil', { bare: true }, '/product/deck-oil?bare='],
    ['/product/deck-oil', { still: true }, '/product/deck-oil?still='],
    ['/product/deck-oil', { framed: true }, '/product/deck-oil?framed='],
    ['/product/deck-oil', { try: null, on: null, bare: false }, '/product/deck-oil'],
    ['/product/deck-oil', { try: 'pieces/tile/a&b' }, '/product/deck-oil?try=pieces%2Ftile%2Fa%26b'],
  ];
  for (const [page, view, address] of made)
    it(address, () => {
      expect([draftAddress(named, page, view), draftAddress(below, page, view)]).toEqual([
        named + address,
        below + address,
      ]);
      expect([pageOfDraft(named, address), pageOfDraft(below, `/draft/spring${address}`)]).toEqual([page, page]);
    });

  const none = ['/draft/springs/product/x', '/draft/autumn/', '/draft/spring', '/product/x', '', 'draft/spring/'];
  for (const address of none)
    it(`“${address}” is none of the draft’s`, () => {
      expect(pageOfDraft(below, address)).toBeNull();
    });

  it('a page whose path begins with two slashes stays a page of the draft', () => {
    expect(pageOfDraft(below, '/draft/spring//elsewhere.example/x')).toBe('//elsewhere.example/x');
  });

  it('gives back the page, whatever it is shown with', () => {
    const word = fc.stringMatching(/^[a-z0-9-]{1,8}$/);
    const page = fc
      .tuple(fc.array(word, { maxLength: 4 }), fc.array(fc.tuple(word, fc.string()), { maxLength: 3 }))
      .map(([path, query]) => {
        const given = new URLSearchParams(
          query.filter(([name]) => !['try', 'on', 'bare', 'still', 'framed'].includes(name)),
        ).toString();
        return `/${path.join('/')}${given ? `?${given}` : ''}`;
      });
    const view = fc.record({
      try: fc.option(fc.string()),
      on: fc.option(word),
      bare: fc.boolean(),
      still: fc.boolean(),
    });
    fc.assert(
      fc.property(page, view, (one, shown) => {
        expect(pageOfDraft(named, draftAddress(named, one, shown).slice(named.length))).toBe(one);
      }),
    );
  });
});
