import { randomUUID } from 'node:crypto';
import { createReadStream, existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { setTimeout as wait } from 'node:timers/promises';
import { tokenHeader } from '@/contract/addresses';
import type { FeedAnswer } from '@/contract/feed';
import { dataFolder } from '@/server/shop';
import { said, type Say } from './said';

/** Lines that are sent at once. */
const linesAtOnce = 2000;
/** A request that was not answered is sent again after so long, and each further time after twice as long, in milliseconds. */
const again = { first: 500, tries: 8 };

export interface FeedTarget {
  to: string;
  /** Of an account, made in People; left out: this machine’s own, for a workbench that runs here. */
  token?: string;
}

function headersFor({ to, token }: FeedTarget): Record<string, string> {
  if (token) return { Authorization: `Bearer ${token}` };
  const own = join(dataFolder(), 'token');
  if (!existsSync(own)) throw new RangeError('Give a token with --token: a workbench of this machine has none here.');
  return { Origin: new URL(to).origin, [tokenHeader]: readFileSync(own, 'utf8').trim() };
}

/** Sends lines until they are answered: under one key, so that they are taken once. */
export async function sendLines(
  target: FeedTarget,
  lines: readonly string[],
  key: string,
  dry = false,
): Promise<FeedAnswer> {
  const url = new URL(`/api/feed${dry ? '?dry=true' : ''}`, target.to);
  const headers = { ...headersFor(target), 'Content-Type': 'application/x-ndjson', 'Idempotency-Key': `"${key}"` };
  for (let tries = 0; ; tries++) {
    try {
      const answer = await fetch(url, { method: 'POST', headers, body: lines.join('\n') });
      const body = (await answer.json()) as FeedAnswer & { message?: string };
      if (answer.ok) return body;
      // A refusal would only be repeated; a fault of the server may pass.
      if (answer.status < 500 && answer.status !== 409) throw new RangeError(body.message ?? `${answer.status}`);
    } catch (error) {
      if (error instanceof RangeError || tries >= again.tries)
        throw error instanceof RangeError
          ? error
          : new RangeError(`${url.origin} does not answer: ${(error as Error).message}.`);
    }
    await wait(again.first * 2 ** tries);
  }
}

/** `last feed`: sends a file of lines to a workbench, and says which were refused. */
export function feedCommand(
  file: string,
  { dry = false, ...target }: FeedTarget & { dry?: boolean },
  say: Say,
  complain: Say,
): Promise<number> {
  return said(complain, async () => {
    if (!existsSync(file)) throw new RangeError(`There is no file ${file}.`);
    if (!URL.canParse(target.to)) throw new RangeError(`“${target.to}” is no address of a workbench.`);
    const sum = { lines: 0, taken: 0, same: 0, refused: 0 };
    // A request that was not answered is sent again under its key; a file that is sent another time has keys of its own.
    const run = randomUUID();
    let some: string[] = [];
    let from = 0;
    const send = async (): Promise<void> => {
      if (!some.length) return;
      const answer = await sendLines(target, some, `${run} ${from}`, dry);
      for (const { line, message } of answer.refused) complain(`${file}, line ${from + line}: ${message}`);
      sum.lines += answer.lines;
      sum.taken += answer.taken;
      sum.same += answer.same;
      sum.refused += answer.refusedCount;
      from += some.length;
      some = [];
    };
    for await (const line of createInterface({ input: createReadStream(file, 'utf8') })) {
      some.push(line);
      if (some.length === linesAtOnce) await send();
    }
    await send();
    const tried = dry ? ' Nothing was kept: it was only tried.' : '';
    say(
      `${sum.lines} ${sum.lines === 1 ? 'line' : 'lines'}: ${sum.taken} taken, ${sum.same} as it was, ${sum.refused} refused.${tried}`,
    );
    return sum.refused ? 1 : 0;
  });
}

/** `last stock-system`: a stand-in for the system that knows stock and prices: it changes some of a shop now and then, until it is stopped. */
export function stockSystemCommand(
  { every, some, ...target }: FeedTarget & { every: string; some: string },
  say: Say,
  complain: Say,
): Promise<number> {
  return said(complain, async () => {
    const [pause, count] = [Number(every), Number(some)];
    if (!(pause >= 10)) throw new RangeError(`“${every}” is not a time: give at least 10 milliseconds.`);
    if (!(count >= 1)) throw new RangeError(`“${some}” is not a number of figures.`);
    const run = randomUUID();
    let stopped = false;
    for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => (stopped = true));
    const answer = await fetch(new URL('/api/feed/figures', target.to), { headers: headersFor(target) });
    if (!answer.ok) throw new RangeError(`${target.to} answers ${answer.status}: may this token look at goods?`);
    const figures = (await answer.text())
      .split('\n')
      .filter(Boolean)
      .map((line) => JSON.parse(line) as { sku: string; price: number; stock: number });
    if (!figures.length) throw new RangeError('The shop has no variants yet.');
    say(`${figures.length} variants; ${count} change every ${pause} ms`);
    for (let round = 1; !stopped; round++) {
      const lines = Array.from({ length: count }, () => {
        const one = figures[Math.floor(Math.random() * figures.length)] as (typeof figures)[number];
        one.stock = Math.max(0, one.stock + Math.floor(Math.random() * 7) - 3);
        one.price = Math.max(1, Math.round(one.price * (0.95 + Math.random() / 10)));
        return JSON.stringify({ sku: one.sku, price: one.price, stock: one.stock });
      });
      const { taken, refusedCount } = await sendLines(target, lines, `${run} ${round}`);
      if (refusedCount) say(`Round ${round}: ${taken} taken, ${refusedCount} refused`);
      await wait(pause);
    }
  });
}
