import { rmSync } from 'node:fs';
import { buildSync } from 'esbuild';

const common = { bundle: true, target: 'es2022', tsconfig: 'tsconfig.json', logLevel: 'warning' };

/** Packages stand in the bundles too, but for machine code: there are few files to find and to read at each start. */
const machineCode = ['better-sqlite3', 'sharp', '@node-rs/*', 'piscina'];
const inNode = {
  platform: 'node',
  format: 'esm',
  mainFields: ['module', 'main'],
  define: { __filename: 'import.meta.url' },
  // The one that reads no files of its own.
  alias: { 'css-tree': 'css-tree/dist/csstree.esm' },
  banner: {
    js: "import { createRequire as requireOf } from 'node:module';const require = requireOf(import.meta.url);",
  },
  sourcemap: true,
};

/** Bundles the script of pages in the Bench's frame (src/ui/frame) into public/bench-frame.js. */
buildSync({
  ...common,
  entryPoints: ['src/ui/frame/main.ts'],
  outfile: 'public/bench-frame.js',
  minify: true,
  format: 'iife',
});

/** Bundles the server, the command line and the server's threads into .bundle/, so that each is ready in a moment. */
rmSync('.bundle', { recursive: true, force: true });
buildSync({
  ...common,
  entryPoints: {
    server: 'src/server/start/start.ts',
    last: 'src/cli/main.ts',
    worker: 'src/server/threads/worker.ts',
    'long-work-thread': 'src/server/threads/long-work-thread.ts',
    'feed-thread': 'src/server/threads/feed-thread.ts',
    'goods-thread': 'src/server/threads/goods-thread.ts',
    'releases-thread': 'src/server/threads/releases-thread.ts',
  },
  outdir: '.bundle',
  outExtension: { '.js': '.mjs' },
  ...inNode,
  external: [...machineCode, 'next', 'jsonld', './serve.js'],
  splitting: true,
  chunkNames: 'part-[hash]',
});

/** A render node is one file. */
buildSync({
  ...common,
  entryPoints: ['src/cli/serve.ts'],
  outfile: '.bundle/serve.js',
  ...inNode,
  external: machineCode,
  minify: true,
});
