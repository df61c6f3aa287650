import { existsSync, mkdirSync, readFileSync, statSync } from 'node:fs';
import { z, type ZodType } from 'zod';
import { replaceCatalogue, retireTag } from '@/server/catalogue';
import { putTheme, Link, readZip, themeOf, type ThemeFiles, addVersion } from '@/server/drafts';
import { draftOf } from '@/server/shop';
import { readFolder, type Shop } from '@/server/shop';

interface CommandOf<Given> {
  given: ZodType<Given>;
  /** Does it, and gives what there is to say, a line each. */
  run(shop: Shop, given: Given): string[] | Promise<string[]>;
}

const command = <Given>(given: ZodType<Given>, run: CommandOf<Given>['run']): CommandOf<Given> => ({ given, run });

const links = new Map<string, Link>();

const inGiven = z.object({
  source: z.string(),
  draft: z.string().nullable(),
  kind: z.enum(['base', 'add-on']).nullable(),
});

/**
 * What the command line does that writes. A server that runs does it for the command line, since it is the one that writes in
 * its data folder; without one the command does it itself. Paths are whole ones of this machine.
 */
export const commands = {
  'retire-tag': command(z.object({ slug: z.string() }), (shop, { slug }) => {
    const had = retireTag(shop, slug);
    if (had === null) throw new RangeError(`There is no tag “${slug}”.`);
    return [`The tag ${slug} is retired: ${had} ${had === 1 ? 'product' : 'products'} had it.`];
  }),
  catalogue: command(z.object({ file: z.string(), pictures: z.string().nullable() }), (shop, { file, pictures }) => {
    const counts = replaceCatalogue(shop, file, pictures);
    const also = pictures === null ? '' : ` and ${counts.pictures} pictures`;
    return [`${counts.products} products${also} read from ${file}.`];
  }),
  in: command(inGiven, async (shop, { source, draft, kind }) => {
    const theme = await themeAt(source);
    if (draft === null) {
      const added = addVersion(shop, theme, kind);
      return [`${added.name} ${added.version} (${added.kind}) is here. See on the Theme screen what it would change.`];
    }
    const { changed } = putTheme(shop, draftOf(shop, draft), theme.files, 'command line');
    return [
      changed ? `${theme.files.length} files are in “${draft}” now, as one change.` : 'All of it was there already.',
    ];
  }),
  /** Brings a linked folder and a draft to the same, once. */
  link: command(z.object({ draft: z.string(), folder: z.string() }), (shop, { draft, folder }) => {
    mkdirSync(folder, { recursive: true });
    const key = `${draft} ${folder}`;
    const link = links.get(key) ?? new Link(draft, folder);
    links.set(key, link);
    return link.turn(shop);
  }),
} satisfies Record<string, { given: ZodType; run(shop: Shop, given: never): string[] | Promise<string[]> }>;

export type CommandName = keyof typeof commands;
export type Given<Name extends CommandName> = z.output<(typeof commands)[Name]['given']>;

/** Runs one, with what it is given as it came from another process. */
export async function runCommand(shop: Shop, name: string, given: unknown): Promise<string[]> {
  if (!Object.hasOwn(commands, name)) throw new RangeError(`There is no command “${name}”.`);
  const found = commands[name as CommandName] as CommandOf<unknown>;
  return found.run(shop, found.given.parse(given));
}

async function themeAt(path: string): Promise<ThemeFiles> {
  if (!existsSync(path)) throw new RangeError(`There is no ${path}.`);
  if (!statSync(path).isDirectory()) return themeOf(await readZip(readFileSync(path)));
  return themeOf(readFolder(path).map(([inner, bytes]) => ({ path: inner, bytes })));
}
