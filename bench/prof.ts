import { listingBy } from './engines';
const make = listingBy[process.argv[2] ?? 'last'] as () => string;
const from = performance.now();
let n = 0;
for (let i = 0; i < 30000; i++) n += make().length;
console.error(process.argv[2], ((performance.now() - from) / 30).toFixed(1) + 'us', n);
