import { listingBy, productBy } from './engines';
for (const [page, by] of Object.entries({ listingBy, productBy })) {
  const want = (by.last as () => string)();
  for (const [name, make] of Object.entries(by)) {
    const got = make();
    let at = 0;
    while (at < want.length && want[at] === got[at]) at++;
    console.log(
      page,
      name,
      got === want
        ? 'same'
        : `differs at ${at}: ${JSON.stringify(got.slice(at - 40, at + 60))} / ${JSON.stringify(want.slice(at - 40, at + 60))}`,
      got.length,
    );
  }
}
import { performance } from 'node:perf_hooks';
for (const [page, by] of Object.entries({ listingBy, productBy })) {
  const t: Record<string, number[]> = {};
  for (let r = 0; r < 25; r++)
    for (const [name, make] of Object.entries(by)) {
      const from = performance.now();
      for (let i = 0; i < 100; i++) make();
      (t[name] ??= []).push((performance.now() - from) / 100);
    }
  const med = (a: number[]) => a.sort((x, y) => x - y)[a.length >> 1] as number;
  const eta = med(t.eta as number[]);
  for (const name in t)
    console.log(
      page,
      name,
      (med(t[name] as number[]) * 1000).toFixed(1) + 'us',
      (med(t[name] as number[]) / eta).toFixed(2),
    );
}
import { renderListing } from './engines';
import { withoutMarks } from '@/core/language/3-compile/sites';
console.log(
  'traced same',
  withoutMarks(renderListing(true).html) === renderListing().html,
  renderListing(true).html.length,
);
{
  const t: Record<string, number[]> = {};
  const by = {
    traced: () => renderListing(true).html,
    eta: listingBy.eta as () => string,
    plain: () => renderListing().html,
  };
  for (let r = 0; r < 25; r++)
    for (const [name, make] of Object.entries(by)) {
      const from = performance.now();
      for (let i = 0; i < 100; i++) make();
      (t[name] ??= []).push((performance.now() - from) / 100);
    }
  const med = (a: number[]) => a.sort((x, y) => x - y)[a.length >> 1] as number;
  for (const name in t)
    console.log(
      name,
      (med(t[name] as number[]) * 1000).toFixed(1) + 'us',
      (med(t[name] as number[]) / med(t.eta as number[])).toFixed(2),
    );
}
