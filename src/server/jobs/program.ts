import { join } from 'node:path';

/** A file of Last itself, wherever it is run from: the installed command says where that is. */
export const inProgram = (path: string): string =>
  join(/* turbopackIgnore: true */ process.env.LAST_PROGRAM ?? process.cwd(), path);
