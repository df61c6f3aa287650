import { resolve } from 'node:path';
import { dataFolder, pack, releaseFault } from '@/server/shop';
import { said, type Say } from './said';

/** `last pack`: a state of the shop as one file, while the shop is in use or not; or a look at such a file. */
export function packCommand(
  state: string,
  { out, check = false }: { out: string; check?: boolean },
  say: Say,
  complain: Say,
): Promise<number> {
  return said(complain, async () => {
    if (check) {
      const wrong = releaseFault(resolve(state), true);
      if (wrong) throw new RangeError(`${state} cannot be used: ${wrong}.`);
      say(`${state} is whole.`);
      return;
    }
    const { file, content, size } = await Promise.resolve(pack(dataFolder(), state, resolve(out)));
    say(`${(size / 1e6).toFixed(1)} MB written to ${file}, with the content ${content}.`);
  });
}
