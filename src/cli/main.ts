import { Argument, Command, Option } from 'commander';
import { type Role, roles } from '@/contract/roles';
import { baseThemes } from '@/contract/start';

// What a command works with is loaded when it is given: none waits for what it does not need.
const program = new Command('last').description('The command line of Last, the workbench for storefront developers.');
const say = (line: string) => process.stdout.write(`${line}\n`);
const complain = (line: string) => process.stderr.write(`${line}\n`);

program
  .command('check')
  .description('what is wrong with a theme: its folders as layers, lowest first')
  .argument('<folder...>')
  .option(
    '--catalogue <file>',
    'check it for the goods of a catalogue file too: custom fields, links, fields that are empty',
  )
  .option('--json', 'as JSON: {"problems": [...]}')
  .option('--fix', 'apply the fixes that are certain')
  .action(async (folders: string[], options) => {
    const { checkCommand } = await import('@/server/commands');
    process.exitCode = checkCommand(folders, options, say, complain);
  });

program
  .command('render')
  .description('one page of a theme, on standard output')
  .argument('<folder...>')
  .requiredOption('--catalogue <file>', 'the goods, as `last export` writes them')
  .requiredOption('--page <address>', 'the page: /product/tarred-hemp-rope')
  .option('--try <alternate>', 'with this alternate, without its being assigned')
  .option('--today <day>', 'as on this day (2026-03-01)')
  .option('--trace <file>', 'with marks in the page, and what they speak of in this file')
  .option('--out <file>', 'into a file instead')
  .action(async (folders: string[], options) => {
    const { renderCommand } = await import('@/server/commands');
    process.exitCode = renderCommand(folders, options, (text) => process.stdout.write(text), complain);
  });

program
  .command('import')
  .description(
    'look at a file of goods (CSV, JSON-LD, or a catalogue file as JSON), say what it would change, and import it into the data folder (LAST_DATA)',
  )
  .argument('[file]')
  .option('--dry-run', 'only look: say what would be added, changed and removed, and what cannot be taken')
  .option('--replace', 'have the goods of the file and no others; without it, only add and change')
  .option('--partly', 'import what can be taken, and leave out the rest')
  .option('--pictures <folder or zip>', 'the pictures in there too, each under its path; without a file, these alone')
  .option('--columns <file>', 'what columns are taken for, where it is not guessed: {"Art.-Nr.": "sku", "Notes": null}')
  .addOption(
    new Option('--encoding <name>', 'how the file is encoded, where it does not say').choices([
      'utf-8',
      'utf-16le',
      'utf-16be',
      'windows-1252',
    ]),
  )
  .option('--delimiter <sign>', 'what stands between cells, where it is not found: ";" or tab')
  .option('--list', 'list what was imported, with its numbers')
  .option('--undo <number>', 'undo one of them; fields that someone has changed since are kept, and listed')
  .action(async (file: string | undefined, options) => {
    const { importGoods } = await import('./goods');
    process.exitCode = await importGoods(file, options, say, complain);
  });

const account = program.command('account').description('who may work in the workbench, where others can reach it');
account
  .command('add')
  .description(
    'make an account; says the one-time link by which its password is set, after the address of the workbench',
  )
  .argument('<name>', 'what they sign in with')
  .option('--called <name>', 'what colleagues read beside changes; the name, where it is left out')
  .addOption(new Option('--role <role>', 'what they may do').choices(roles).default('owner'))
  .action(async (name: string, { called, role }: { called?: string; role: Role }) => {
    const { writing } = await import('./on-shop');
    process.exitCode = await writing('account add', { name, called: called ?? name, role }, say, complain);
  });
account
  .command('link')
  .description('make a one-time link to a new password of an account; the one before it ends')
  .argument('<name>')
  .action(async (name: string) => {
    const { writing } = await import('./on-shop');
    process.exitCode = await writing('account link', { name }, say, complain);
  });

program
  .command('export')
  .description(
    'write the goods of the data folder (LAST_DATA) to a file: CSV where its name ends in .csv, schema.org’s terms where it ends in .jsonld, else a catalogue file as JSON',
  )
  .argument('<file>')
  .addOption(
    new Option('--format <format>', 'whatever the name of the file').choices(['csv', 'json', 'jsonld'] as const),
  )
  .option('--pictures <folder>', 'the pictures too, into this folder')
  .action(async (file: string, options) => {
    const { exportGoods } = await import('./goods');
    process.exitCode = await exportGoods(file, options, say, complain);
  });

program
  .command('explain')
  .description(
    'which template a page of the data folder (LAST_DATA) gets, and why: each pin and rule, with the value that decided',
  )
  .argument('<address>', '/product/tarred-hemp-rope')
  .option('--state <name>', 'of this draft, of release/<n> or of live', 'live')
  .option('--on <day>', 'as on this day (2026-12-24)')
  .option('--try <alternate>', 'with this alternate, without its being assigned')
  .option('--json', 'as JSON')
  .action(async (address: string, options) => {
    const { explainCommand } = await import('./alternates');
    process.exitCode = await explainCommand(address, options, say, complain);
  });

program
  .command('retire-tag')
  .description('take a tag out of the catalogue of the data folder (LAST_DATA), and from all products that have it')
  .argument('<slug>')
  .action(async (slug: string) => {
    const { retireTagCommand } = await import('./alternates');
    process.exitCode = await retireTagCommand(slug, say, complain);
  });

program
  .command('out')
  .description(
    'write one layer of a draft (its own, unless said), of release/<n> or of live, as a ZIP or into a folder',
  )
  .argument('<state>')
  .argument('<zip or folder>')
  .option('--layer <name>', 'this layer: Quay')
  .option('--over', 'into a folder that is not empty')
  .action(async (state: string, target: string, options) => {
    const { outCommand } = await import('./travel');
    process.exitCode = await outCommand(state, target, options, say, complain);
  });

program
  .command('in')
  .description('bring in a version of a base or add-on; with --draft: put it in the place of a draft’s own files')
  .argument('<zip or folder>')
  .option('--draft <name>')
  .option('--kind <kind>', 'base or add-on, where its about.json does not say')
  .action(async (source: string, options) => {
    const { inCommand } = await import('./travel');
    process.exitCode = await inCommand(source, options, say, complain);
  });

program
  .command('link')
  .description(
    'keep a folder and a draft’s own files in step while you edit in any editor; a conflict overwrites neither',
  )
  .argument('<draft>')
  .argument('<folder>')
  .option('--once', 'bring both to the same once, and end')
  .action(async (draft: string, folder: string, options) => {
    const { linkCommand } = await import('./travel');
    process.exitCode = await linkCommand(draft, folder, options, say, complain);
  });

program
  .command('backup')
  .description('write a copy of the data folder’s database (LAST_DATA) to a file, while Last runs or not')
  .argument('<file>')
  .action(async (file: string) => {
    const { backupCommand } = await import('./backup');
    process.exitCode = await backupCommand(file, say, complain);
  });

program
  .command('restore')
  .description(
    'replace the data folder’s database (LAST_DATA) with a backup, while Last runs or not; the old database is kept beside it',
  )
  .argument('<file>')
  .action(async (file: string) => {
    const { restoreCommand } = await import('./backup');
    process.exitCode = await restoreCommand(file, say, complain);
  });

program
  .command('pack')
  .description(
    'write a state of the shop, its theme with goods and pictures, into one file that nothing changes any more; with --check, say whether such a file is whole',
  )
  .argument('<state>', 'live, release/3 or draft/spring; with --check, the file')
  .option(
    '--out <file or folder>',
    'where to: a file that is called ….release, or a folder, in which it is named by its content',
    '.',
  )
  .option('--check', 'look at a file instead: whether all of it is as it was written')
  .action(async (state: string, options) => {
    const { packCommand } = await import('./pack');
    process.exitCode = await packCommand(state, options, say, complain);
  });

program
  .command('serve')
  .description(
    'serve the shop of a release file, as last pack writes them, or of the newest in a folder, here or at an address of HTTP, going over to the next one as it comes: no workbench, no drafts; SIGTERM ends it once what was begun is done',
  )
  .argument('<file, folder or address>')
  .option('--port <number>', 'where it listens', '4180')
  .option('--bind <address>', 'on which address of this machine', '127.0.0.1')
  .option('--host <names>', 'the names of the shop, separated by commas; this machine’s own are always answered', '')
  .option('--data <folder>', 'where carts and pictures in sizes are kept', 'node')
  .option('--proxy', 'a front server stands before it, and speaks HTTPS')
  .option(
    '--origin <address>',
    'the shop’s address at its workbench, which keeps carts and takes orders: http://10.0.0.2:4171',
  )
  .option('--processes <number>', 'how many share the port; as many as the machine has cores, where it is left out')
  .option(
    '--tell <addresses>',
    'caches in front, separated by commas, that are told which pages a change touches: http://127.0.0.1:6081',
  )
  .option('--metrics <port>', 'a port of this machine where /metrics has figures for monitoring')
  .action(async (file: string, options) => {
    const { serveCommand } = await import('./serve.js');
    process.exitCode = await serveCommand(file, options, say, complain);
  });

program
  .command('doctor')
  .description('look at all that Last needs to run, and say what is wrong and what to do')
  .option('--releases <folder>', 'the folder of release files', process.env.LAST_RELEASES)
  .option('--json', 'as JSON: [{"what", "fault"}]')
  .action(async (options) => {
    const { doctorCommand } = await import('./doctor');
    process.exitCode = await doctorCommand(options, say, complain);
  });

program
  .command('feed')
  .description(
    'send a file of lines (NDJSON) to a workbench: figures by article number, and records that are put, patched or removed',
  )
  .argument('<file>')
  .requiredOption('--to <address>', 'of the workbench: https://last.example.org')
  .option('--token <token>', 'of an account that may change goods; left out: that of a workbench on this machine')
  .option('--dry', 'try it, and keep nothing')
  .action(async (file: string, options) => {
    const { feedCommand } = await import('./feed');
    process.exitCode = await feedCommand(file, options, say, complain);
  });

program
  .command('stock-system')
  .description('a stand-in for the system that knows stock and prices: it changes some of a shop’s now and then')
  .requiredOption('--to <address>', 'of the workbench')
  .option('--token <token>', 'of an account that may change goods; left out: that of a workbench on this machine')
  .option('--every <milliseconds>', 'how often', '1000')
  .option('--some <number>', 'how many figures change each time', '5')
  .action(async (options) => {
    const { stockSystemCommand } = await import('./feed');
    process.exitCode = await stockSystemCommand(options, say, complain);
  });

program
  .command('receiver')
  .description(
    'a stand-in for the shop’s own system: takes orders as they are sent to it, checks their signature, and prints each once',
  )
  .requiredOption('--secret <base64>', 'the secret that the workbench shows beside the address')
  .option('--port <number>', 'where it listens', '4190')
  .option('--refuse <number>', 'so many messages are refused first, to see them come again', '0')
  .action(async (options) => {
    const { receiverCommand } = await import('./receiver');
    process.exitCode = await receiverCommand(options, say, complain);
  });

program
  .command('front')
  .description(
    'write the configuration of a server that stands before render nodes: it sends on what it was sent a moment ago, and asks another node where one fails',
  )
  .addArgument(new Argument('<server>').choices(['nginx', 'varnish'] as const))
  .option('--node <addresses>', 'where the nodes listen, separated by commas', '127.0.0.1:4180')
  .option('--host <names>', 'the names of the shop, separated by commas', '')
  .option('--port <number>', 'where nginx listens', '80')
  .option('--cache <folder>', 'where nginx keeps what it was sent', '/var/cache/nginx/last')
  .option('--groups', 'Varnish keeps pages until nodes say what has changed, as last serve --tell has them do')
  .option('--certificate <file>', 'for HTTPS by nginx: the certificate')
  .option('--key <file>', 'and its key')
  .action(async (front: 'nginx' | 'varnish', options) => {
    const { frontCommand } = await import('./front');
    process.exitCode = await frontCommand(front, options, say, complain);
  });

program
  .command('site')
  .description(
    'write the shop of a release file as files that any web server serves, with a configuration of nginx; what was written before and has not changed stays',
  )
  .argument('<file>')
  .requiredOption('--out <folder>', 'where to')
  .requiredOption('--host <name>', 'the name that the shop is known by: shop.example.org')
  .option(
    '--node <address>',
    'where a render node listens, for carts, searches, filters and orders; without, their forms are left out',
  )
  .option('--port <number>', 'where nginx listens', '80')
  .action(async (file: string, options) => {
    const { siteCommand } = await import('./site');
    process.exitCode = await siteCommand(file, options, say, complain);
  });

program
  .command('cases')
  .description('run files of language cases; prints each that fails, and ends with “N passed, N failed”')
  .argument('<file...>')
  .action(async (files: string[]) => {
    const { runCaseFiles } = await import('@/server/language');
    process.exitCode = runCaseFiles(files, say);
  });

program
  .command('new')
  .description('make a shop of your own in an empty data folder')
  .argument('<folder>', 'the data folder, as LAST_DATA names it')
  .option('--name <name>', 'what the shop is called; asked for when left out, as are the next two')
  .option('--currency <code>', 'its currency: EUR')
  .option('--languages <tags>', 'its languages, with commas between; texts are written in the first: en-GB,fr')
  .option(
    '--catalogue <file>',
    'with the goods of a catalogue file, which names the shop, its currency and its languages',
  )
  .addOption(new Option('--theme <theme>', 'the base theme').choices(baseThemes).default('quay'))
  .action(async (folder: string, options) => {
    const { newCommand } = await import('./new');
    process.exitCode = await newCommand(folder, options, say, complain);
  });

program
  .command('seed')
  .description('fill an empty data folder (LAST_DATA) with the demo shop')
  .option('--products <number>', 'with so many products, made after the demo’s: 1000, 10000, 100000')
  .option('--seed <number>', 'which ones: the same number gives the same', '1')
  .option('--no-work', 'with nothing under way in its draft')
  .action(async (options: { products?: string; seed: string; work: boolean }) => {
    const many =
      options.products === undefined ? null : { products: Number(options.products), seed: Number(options.seed) };
    if (many && !(Number.isInteger(many.products) && many.products >= 1 && Number.isInteger(many.seed))) {
      complain('--products and --seed take whole numbers.');
      process.exitCode = 2;
      return;
    }
    const { seedDemo } = await import('./seed');
    process.exitCode = await seedDemo(say, many, options.work);
  });

await program.parseAsync();
