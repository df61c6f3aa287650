import { buildSync } from 'esbuild';

/** Bundles the script of pages in the Bench's frame (src/ui/frame) into public/bench-frame.js. */
buildSync({
  entryPoints: ['src/ui/frame/main.ts'],
  outfile: 'public/bench-frame.js',
  bundle: true,
  minify: true,
  format: 'iife',
  target: 'es2022',
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
});
