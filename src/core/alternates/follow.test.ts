import { expect, it } from 'vitest';
import { readAlternates } from './alternates';
import { followed } from './follow';

const names: Record<string, string> = { 'tag offer': 'on-offer', 'product rope': 'cord', 'category lamps': 'lights' };
const now = (kind: string, slug: string) => names[`${kind} ${slug}`] ?? null;

it('assignments name things by the slugs that they have now', () => {
  const { alternates } = readAlternates(
    JSON.stringify({
      alternates: [{ kind: 'product', name: 'rated', label: 'Rated' }],
      pins: [
        { kind: 'product', slug: 'rope', alternate: 'rated' },
        { kind: 'category', slug: 'rope', alternate: 'rated' },
        { kind: 'listing', slug: 'tag/offer', alternate: 'rated' },
        { kind: 'listing', slug: 'all', alternate: 'rated' },
      ],
      rules: [
        {
          ...{ id: 'a', kind: 'product', alternate: 'rated' },
          when: {
            any: [
              { fact: 'tag', test: 'is', value: ['offer', 'new'] },
              { not: [{ fact: 'category', test: 'is', value: ['lamps'] }] },
              { fact: 'slug', test: 'is', value: ['rope'] },
              { fact: 'slug', test: 'begins', value: 'rope' },
              { fact: 'type', test: 'is', value: ['offer'] },
            ],
          },
        },
        { id: 'b', kind: 'category', alternate: 'rated', when: { fact: 'slug', test: 'is', value: ['rope', 'lamps'] } },
      ],
    }),
  );
  const { pins, rules } = followed(alternates, now);
  expect(pins.map(({ kind, slug }) => `${kind} ${slug}`)).toEqual([
    'product cord',
    'category rope',
    'listing tag/on-offer',
    'listing all',
  ]);
  expect(rules.map(({ when }) => when)).toEqual([
    {
      any: [
        { fact: 'tag', test: 'is', value: ['on-offer', 'new'] },
        { not: [{ fact: 'category', test: 'is', value: ['lights'] }] },
        { fact: 'slug', test: 'is', value: ['cord'] },
        { fact: 'slug', test: 'begins', value: 'rope' },
        { fact: 'type', test: 'is', value: ['offer'] },
      ],
    },
    { fact: 'slug', test: 'is', value: ['rope', 'lights'] },
  ]);
});
