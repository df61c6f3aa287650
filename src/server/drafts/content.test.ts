import { beforeEach, describe, expect, it } from 'vitest';
import { type Shop, stateOf } from '@/server/shop';
import { demoShop } from '@/server/testing/demo-shop';
import { StoredSettings } from '@/store';
import { contentOfDraft, publishContent } from './content';
import { writeText } from './files';
import { checkedFor, publish } from './release';

let shop: Shop;
beforeEach(() => {
  shop = demoShop();
});
const draft = () => stateOf(shop, 'draft/spring');
const own = (path: string) => shop.theme(draft()).theme.layers.at(-1)?.files.get(path);
const write = (path: string, change: (text: string) => string) =>
  writeText(shop, draft(), path, change(own(path)?.text ?? ''), own(path)?.hash ?? null, 'Ash', undefined);
const changes = () =>
  contentOfDraft(shop, draft()).changes.map(({ kind, name, change }) => `${kind} ${name} ${change}`);
const go = () => publishContent(shop, draft(), { note: 'x' }, 'Ash', checkedFor(shop, draft()));

/** Begins with a draft that is what is live. */
function published(): void {
  publish(shop, draft(), { note: '' }, 'Kim');
  expect(changes()).toEqual([]);
}

describe('what of a draft is content alone', () => {
  it('is what stands on shelves, and words, each by its name', () => {
    published();
    write('shelves.json', (text) => text.replace('"limit": 4', '"limit": 8').replace(/\{ "id": "care".*\n/, ''));
    write('words/en.json', (text) => text.replace('{', '{ "home.spring": "For the spring",'));
    expect(changes()).toEqual([
      'piece Row of products changed',
      'piece Content page removed',
      'phrase home.spring added',
    ]);
    expect(contentOfDraft(shop, draft())).toMatchObject({ allowed: false, only: true });
    write('pieces/tagline.html', (text) => `${text}\n`);
    expect(contentOfDraft(shop, draft())).toMatchObject({ only: false, changes: [{}, {}, {}] });
  });
});

describe('publishing what is content alone', () => {
  it('is for staff where an owner allows it, and nothing else differs', () => {
    published();
    write('shelves.json', (text) => text.replace('"limit": 4', '"limit": 8'));
    expect(go).toThrow(/An owner can let staff publish/);
    new StoredSettings(shop.sql).set('staffPublish', true);
    expect(go().number).toBe(3);
    expect(changes()).toEqual([]);
    write('pieces/tagline.html', (text) => `${text}\n`);
    expect(go).toThrow('more than pieces and words differ');
  });

  it('says nothing of a template with an error', () => {
    write('pieces/tagline.html', () => '<draw name="pieces/none"/>');
    // Live by other means, as a data folder that was written to.
    new StoredSettings(shop.sql).set('staffPublish', true);
    const checked = checkedFor(shop, draft());
    expect(checked.problems.some(({ severity }) => severity === 'error')).toBe(true);
    write('pieces/tagline.html', () => '<p>x</p>');
    publish(shop, draft(), { note: '' }, 'Kim');
    write('shelves.json', (text) => text.replace('"limit": 4', '"limit": 8'));
    expect(() => publishContent(shop, draft(), { note: '' }, 'Ash', checked)).toThrow(
      /^Not published: a template has an error\. /,
    );
  });
});
