import { createInterface } from 'node:readline/promises';
import { resolve } from 'node:path';
import { type baseThemes, newShop } from '@/contract/start';
import { writing } from './on-shop';
import type { Say } from './said';

interface Options {
  name?: string;
  currency?: string;
  languages?: string;
  theme: (typeof baseThemes)[number];
  catalogue?: string;
}

const questions: [key: 'name' | 'currency' | 'languages', question: string][] = [
  ['name', 'What is the shop called? '],
  ['currency', 'Its currency (EUR, GBP, …)? '],
  ['languages', 'Its languages, the first one first (en-GB, fr)? '],
];

/** Asks on the terminal for what the call left out. */
async function asked(options: Options): Promise<Options> {
  const terminal = createInterface({ input: process.stdin, output: process.stdout });
  const all = { ...options };
  try {
    for (const [key, question] of questions) all[key] ??= await terminal.question(question);
  } finally {
    terminal.close();
  }
  return all;
}

/** `last new`: exit status 0 when the shop was made, 1 when the data folder cannot be used, 2 for a call that is not whole. */
export async function newCommand(folder: string, options: Options, say: Say, complain: Say): Promise<number> {
  process.env.LAST_DATA = resolve(folder);
  const file = options.catalogue === undefined ? null : resolve(options.catalogue);
  const missing = questions.filter(([key]) => options[key] === undefined).map(([key]) => `--${key}`);
  // A catalogue file names its shop, its currency and its languages.
  if (file === null && missing.length && !process.stdin.isTTY) {
    complain(`A new shop needs ${missing.join(', ')} (or --catalogue with a catalogue file, which says them).`);
    return 2;
  }
  if (file !== null) return writing('newFromFile', { theme: options.theme, file }, say, complain);
  const { name = '', currency = '', languages = '', theme } = missing.length ? await asked(options) : options;
  const read = newShop.safeParse({ name, currency, languages: languages.split(','), theme });
  if (!read.success) {
    for (const { message } of read.error.issues) complain(`${message}.`);
    return 2;
  }
  return writing('new', read.data, say, complain);
}
