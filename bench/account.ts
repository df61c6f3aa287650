import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { roles } from '@/contract/roles';
import { People } from '@/server/accounts';
import { SignIn } from '@/server/accounts/sign-in';
import { may, whoAsks, whoHeader, writeWho } from '@/server/http';
import { Shop } from '@/server/shop';
import type { Report } from './live';

const calls = 20_000;
/** People who are signed in, each on two devices. */
const many = 50;

/** What it adds to a request to find out who asks, and whether they may: on a data folder with 50 people, each in turn. */
export function accountFigures({ asked, say, figure }: Report): void {
  if (!asked('account.check')) return;
  say('Who asks, and may they');
  const people = new People(new Shop(mkdtempSync(join(tmpdir(), 'bench-'))).sql);
  const signIn = new SignIn(people);
  const cookies: string[] = [];
  for (let at = 0; at < many; at++) {
    const role = roles[at % roles.length] ?? 'reader';
    const { account } = people.invite({ name: `person-${at}`, called: `Person ${at}`, role }, 'bench');
    for (let device = 0; device < 2; device++)
      cookies.push(
        signIn
          .openFor(account.id)
          .map((one) => one.split(';')[0])
          .join('; '),
      );
  }
  const times: number[] = [];
  for (let call = -calls / 10; call < calls; call++) {
    const from = performance.now();
    const who = signIn.who({ cookie: cookies[Math.abs(call) % cookies.length] });
    if (!who) throw new Error('Nobody was known');
    const heard = whoAsks({ headers: new Headers({ [whoHeader]: writeWho(who) }) });
    if (!heard || !may(heard, 'look')) throw new Error('Who asked may not look');
    if (call >= 0) times.push(performance.now() - from);
  }
  times.sort((a, b) => a - b);
  const at = (share: number) => (times[Math.floor(times.length * share)] as number).toFixed(3);
  figure(
    'account.check',
    Number(at(0.5)),
    'ms',
    `at most 0.2 added to a request; 99 of 100 within ${at(0.99)}, of ${calls}`,
  );
}
