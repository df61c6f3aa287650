import { firstEscape } from '@/core/language/testing/differential';

/**
 * `npm run nightly [-- SEED]`: the differential test at length, for a machine that has an hour. A hundred thousand pairs of a
 * generated theme and a hostile value, in portions, each with a seed of its own; ends with the first that a value escapes in.
 */
const pairs = 100_000;
const portion = 5000;
const first = Number(process.argv[2] ?? Math.floor(Date.now() / 86_400_000));
const began = performance.now();
for (let done = 0; done < pairs; done += portion) {
  const seed = first * 1000 + done / portion;
  const escape = firstEscape(portion, seed);
  if (escape !== null) {
    process.stdout.write(`${escape}\n\n0 passed, 1 failed\n`);
    process.exit(1);
  }
  const seconds = Math.round((performance.now() - began) / 1000);
  process.stdout.write(`${(done + portion).toLocaleString('en')} pairs, seed ${seed}: none escaped (${seconds} s)\n`);
}
process.stdout.write('\n1 passed, 0 failed\n');
