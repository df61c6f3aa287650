import { timingSafeEqual } from 'node:crypto';
import { accountName, calledName, newPassword } from '@/contract/accounts';
import { hashPassword } from './passwords';
import { Patience } from './patience';
import type { People } from './people';
import { newSecret } from './secrets';
import { tooEasy } from './strength';

/** The first owner: whoever reads the code on the server's console makes the account. Until then nobody else comes in. */
export class FirstRun {
  /** Shown on the console; another at each start. */
  readonly code = newSecret().slice(0, 16);
  readonly #patience = new Patience();

  constructor(readonly people: People) {}

  /** Whether there is no owner yet who can sign in. */
  get isDue(): boolean {
    return this.people.accounts.owners() === 0;
  }

  /** Makes the owner; a sentence where that cannot be. */
  async make(given: {
    code: string;
    name: string;
    called: string;
    password: string;
  }): Promise<{ id: number } | string> {
    const { people } = this;
    const wait = this.#patience.waitOf('code', people.now());
    if (wait > 0) return `Too many wrong codes came. Wait ${Math.ceil(wait / 1000)} s, then try again.`;
    const [a, b] = [Buffer.from(given.code.trim()), Buffer.from(this.code)];
    if (a.length !== b.length || !timingSafeEqual(a, b)) {
      this.#patience.failed('code', people.now());
      return 'That is not the code: the server writes it on its console when it starts.';
    }
    const reads = [
      accountName.safeParse(given.name),
      calledName.safeParse(given.called),
      newPassword.safeParse(given.password),
    ];
    const wrong = reads.flatMap((one) => (one.success ? [] : one.error.issues)).map(({ message }) => message);
    if (wrong.length) return wrong.join(' ');
    const easy = tooEasy(given.password, [given.name, given.called]);
    if (easy) return easy;
    const password = await hashPassword(given.password);
    return people.sql.db
      .transaction(() => {
        if (!this.isDue) return 'There is an owner already: sign in.';
        const name = given.name.trim();
        const id =
          people.accounts.named(name)?.id ??
          people.accounts.add(
            { name, called: given.called.trim(), role: 'owner' },
            new Date(people.now()).toISOString(),
          );
        people.accounts.change(id, { called: given.called.trim(), role: 'owner' });
        people.accounts.setPassword(id, password);
        people.log(given.called.trim(), 'owner', `${name} is the first owner`);
        return { id };
      })
      .immediate();
  }
}
