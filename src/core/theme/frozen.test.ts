import { readdirSync, readFileSync } from 'node:fs';
import { expect, it, vi } from 'vitest';
import type * as parsing from '../language/1-parse/template';
import { formatTemplate, usesOf } from '@/core/editing';
import { highlights, type Template } from '@/core/language';
import { themeOf } from '../language/testing/theme-of';
import { judge, runCase, type Case } from './cases';

/** Freezes a tree, all the way down; sources and problems aside, which are not of the tree. */
function freeze(one: unknown): void {
  if (typeof one !== 'object' || one === null || Object.isFrozen(one)) return;
  Object.freeze(one);
  for (const [name, value] of Object.entries(one)) if (name !== 'source' && name !== 'problems') freeze(value);
}

const seen = vi.hoisted(() => ({ trees: 0 }));
vi.mock('../language/1-parse/template', async (load) => {
  const real = await load<typeof parsing>();
  const parseTemplate = (...given: Parameters<typeof real.parseTemplate>): Template => {
    const template = real.parseTemplate(...given);
    seen.trees++;
    freeze(template.children);
    freeze(template.takes);
    return template;
  };
  return { ...real, parseTemplate };
});

const read = (path: string) => readFileSync(path, 'utf8');
const cases = readdirSync('cases')
  .filter((name) => name.endsWith('.json') && name !== 'budgets.json')
  .flatMap((name) => (JSON.parse(read(`cases/${name}`)) as { cases: Case[] }).cases);
const base = Object.fromEntries(
  (readdirSync('themes/quay-1.0', { recursive: true }) as string[])
    .filter((path) => /\.(?:html|json)$/.test(path))
    .map((path) => [path, read(`themes/quay-1.0/${path}`)]),
);

it('trees that were read never change: all cases come out the same on frozen ones, amendments among them', () => {
  const before = seen.trees;
  expect(cases.flatMap((one) => judge(one, runCase(one)) ?? [])).toEqual([]);
  expect(seen.trees - before).toBeGreaterThan(cases.length);
});

it('nor do those of the base theme, checked, compiled, traced, formatted and looked through', () => {
  const theme = themeOf(base);
  const names = theme.names();
  for (const name of names) {
    theme.check(name);
    expect(theme.compiled(name, true)).not.toBeNull();
    const text = base[`${name}.html`] ?? '';
    expect(formatTemplate(text)).not.toBeNull();
    expect(highlights(text)).toBeInstanceOf(Array);
  }
  expect(usesOf(theme, { kind: 'piece', name: 'pieces/price', of: '' }).length).toBeGreaterThan(1);
});

it('is a test that sees a change', () => {
  const { children } = themeOf({ 'a.html': '<p>x</p>' }).template('a') ?? {};
  expect(() => (children as unknown[]).push(1)).toThrow(TypeError);
});
