import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';

/**
 * For tests only: a program of the sources in one file, which starts in a fraction of the time that they take. Packages are in it, but for machine code.
 *
 * @returns where it is, and what removes it
 */
export async function programOf(source: string): Promise<{ file: string; remove: () => void }> {
  // Below the packages, so that those that are not in it are found.
  const file = join(process.cwd(), 'node_modules', '.cache', `${source.replace(/\W+/g, '-')}-${process.pid}.mjs`);
  await build({
    ...{ entryPoints: [source], outfile: file, bundle: true, platform: 'node', format: 'esm', logLevel: 'error' },
    tsconfig: 'tsconfig.json',
    mainFields: ['module', 'main'],
    external: ['better-sqlite3', 'sharp', '@node-rs/*', 'piscina', 'jsonld', 'next'],
    alias: { 'css-tree': 'css-tree/dist/csstree.esm' },
    define: { __filename: 'import.meta.url' },
    banner: {
      js: "import { createRequire as requireOf } from 'node:module';const require = requireOf(import.meta.url);",
    },
  });
  return { file, remove: () => rmSync(file, { force: true }) };
}

let command: Promise<string> | null = null;

/** The command line in one file, built once for all that a test process runs. */
export function commandFile(): Promise<string> {
  command ??= programOf('src/cli/main.ts').then(({ file, remove }) => {
    process.once('exit', remove);
    return file;
  });
  return command;
}
