#!/usr/bin/env node
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

// The command line of Last, as it is installed: `last` by itself is another command of Unix. It works in any folder.
process.env.NODE_ENV ??= 'production';
process.env.LAST_PROGRAM ??= fileURLToPath(new URL('..', import.meta.url));
const built = new URL('../.bundle/last.mjs', import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  process.stderr.write(`Last is not built yet: run npm run build in ${process.env.LAST_PROGRAM}.\n`);
  process.exitCode = 1;
}
