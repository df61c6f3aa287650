import { performance } from 'node:perf_hooks';
import { listingBy } from './engines';
const med = (a: number[]) => a.sort((x, y) => x - y)[a.length >> 1] as number;
for (const n of [100, 1]) {
  const t: Record<string, number[]> = {};
  for (let r = 0; r < (n === 1 ? 1500 : 25); r++) for (const name of ['last', 'eta', 'hand']) { const make = listingBy[name] as () => string;
    const from = performance.now(); for (let i = 0; i < n; i++) make(); (t[name] ??= []).push((performance.now() - from) / n);
  }
  for (const name in t) console.log(n, name, (med(t[name] as number[]) * 1000).toFixed(1) + 'us', (med(t[name] as number[]) / med(t.eta as number[])).toFixed(2));
}
