import { expect, it } from 'vitest';
import type { Endpoint } from '@/contract/endpoint';
import { endpoints } from '@/contract/endpoints';
import { calls } from '.';

it('every call of the contract is answered, once', () => {
  const all = Object.values(endpoints).flatMap((table): Endpoint[] => Object.values(table));
  expect(new Set(calls.map(({ endpoint }) => endpoint))).toEqual(new Set(all));
  expect(calls).toHaveLength(all.length);
});
