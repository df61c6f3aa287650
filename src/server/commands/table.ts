import { existsSync, mkdirSync, readFileSync, statSync } from 'node:fs';
import { z, type ZodType } from 'zod';
import { accountName, calledName, role } from '@/contract/accounts';
import { baseThemes, newShop } from '@/contract/start';
import { People } from '@/server/accounts';
import { readCatalogueFile } from '@/server/catalogue';
import { importCommand, importGiven, retireTag, undoCommand } from '@/server/goods';
import { putTheme, Link, readZip, themeOf, type ThemeFiles, addVersion } from '@/server/drafts';
import { draftOf } from '@/server/shop';
import { readFolder, restoreServed, type Shop } from '@/server/shop';
import { startShop } from '@/server/seeding';
import { noteNoChanges } from '@/store';

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
    const retired = retireTag(shop, slug, { at: new Date().toISOString(), by: 'command line' });
    if (!retired) throw new RangeError(`There is no tag “${slug}”.`);
    const { had, id } = retired;
    return [
      `The tag ${slug} is retired: ${had} ${had === 1 ? 'product' : 'products'} had it. last import --undo ${id} brings it back.`,
    ];
  }),
  new: command(newShop, (shop, given) => {
    startShop(shop, given, new Date().toISOString());
    return [`${given.name} is ready, with nothing to sell yet: npm start shows it. Goods come in with last import.`];
  }),
  newFromFile: command(z.object({ theme: z.enum(baseThemes), file: z.string() }), (shop, { theme, file }) => {
    const { shop: own, ...catalogue } = readCatalogueFile(file);
    startShop(shop, { ...own, languages: own.locales, theme }, new Date().toISOString(), catalogue);
    return [`${own.name} is ready, with ${catalogue.products.length} products: npm start shows it.`];
  }),
  'account add': command(z.object({ name: accountName, called: calledName, role }), (shop, given) => {
    const { link } = new People(shop.sql).invite(given, 'command line');
    return [`${given.called} comes in by this link, once, until ${link.until.slice(0, 10)}: ${link.path}`];
  }),
  'account link': command(z.object({ name: accountName }), (shop, { name }) => {
    const people = new People(shop.sql);
    const account = people.accounts.named(name);
    if (!account) throw new RangeError(`There is no account “${name}”.`);
    const link = people.link(account.id, 'command line');
    return [`${account.called} sets a new password by this link, once, until ${link.until.slice(0, 10)}: ${link.path}`];
  }),
  restore: command(z.object({ file: z.string() }), async (shop, { file }) => {
    const kept = await restoreServed(shop, file, new Date().toISOString());
    // A backup of a server that wrote release files notes what changes, for a thread that may not be there.
    if (!process.env.LAST_RELEASES) noteNoChanges(shop.sql);
    return [
      `The shop now holds what ${file} held. What was there before is in ${kept}.`,
      'Screens of the workbench that are open show what was: load them again.',
    ];
  }),
  import: command(importGiven, (shop, given) => importCommand(shop, given, new Date().toISOString())),
  undoImport: command(z.object({ change: z.int() }), (shop, { change }) =>
    undoCommand(shop, change, new Date().toISOString()),
  ),
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
