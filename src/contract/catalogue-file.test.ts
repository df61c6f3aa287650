import { describe, expect, it } from 'vitest';
import { catalogueFile } from './catalogue-file';

describe('the shop in a catalogue file', () => {
  const shop = { name: 'Withy Quay', currency: 'GBP', locale: 'en-GB', locales: ['en-GB', 'fr'] };
  const read = (more: object) => catalogueFile.shape.shop.safeParse({ ...shop, ...more });

  it('has languages by their tags, in their usual spelling', () => {
    expect(read({ locale: 'en-gb', locales: ['en-gb', 'FR'] }).data).toMatchObject(shop);
  });

  it.each([
    [{ locales: ['en-GB', 'fr 3'] }, '“fr 3” is not a language tag, as “en”, “en-GB” or “de” are'],
    [{ locale: 'english language' }, '“english language” is not a language tag, as “en”, “en-GB” or “de” are'],
    [{ currency: '1b?' }, 'A currency has three capital letters, as “EUR” or “GBP”'],
  ])('is refused with %o, with which no page could be made', (more, says) => {
    expect(read(more).error?.issues.map(({ message }) => message)).toEqual([says]);
  });
});
