import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomData, randomFiles } from '../testing/random-templates';
import { pageOf, themeOf } from '../testing/theme-of';
import { browserTree, writtenTree } from '../testing/trees';

// Rich text brings elements that no template shows; where its type is known the checker asks parse5 about it too (check.test.ts).
const data = { ...randomData, rich: 'rich text' };

describe('the tree that a template means is the tree that a browser builds (parse5)', () => {
  it('for random templates of which the checker says nothing', () => {
    let held = 0;
    let told = 0;
    fc.assert(
      fc.property(randomFiles, (files) => {
        const theme = themeOf(files);
        const problems = theme.checkAll();
        if (problems.some((one) => one.code === 'rearranged')) told++;
        if (problems.some(({ code }) => ['rearranged', 'unclosed', 'nesting', 'tag'].includes(code))) return;
        const { html } = pageOf(theme, data, { steps: 2000 });
        const written = writtenTree(html);
        expect([html, browserTree(html, false)]).toEqual([html, written]);
        held++;
      }),
      { numRuns: 1000 },
    );
    // Both happen often, or nothing was tried.
    expect(held).toBeGreaterThan(300);
    expect(told).toBeGreaterThan(20);
  });
});
