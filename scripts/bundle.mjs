import { buildSync } from 'esbuild';

const common = { bundle: true, target: 'es2022', tsconfig: 'tsconfig.json', logLevel: 'warning' };

/** Bundles the script of pages in the Bench's frame (src/ui/frame) into public/bench-frame.js. */
buildSync({
  ...common,
  entryPoints: ['src/ui/frame/main.ts'],
  outfile: 'public/bench-frame.js',
  minify: true,
  format: 'iife',
});

/** Bundles the server's threads into .bundle/, each one file, so that a thread is ready in a moment. */
buildSync({
  ...common,
  entryPoints: ['src/server/threads/worker.ts', 'src/server/threads/long-work-thread.ts'],
  outdir: '.bundle',
  entryNames: '[name]',
  outExtension: { '.js': '.mjs' },
  platform: 'node',
  format: 'esm',
  packages: 'external',
  sourcemap: true,
});
