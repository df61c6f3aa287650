import type { Role, Right } from '@/contract/roles';
import { refuse } from '@/server/http';
import { type AccountRow, Accounts, type Statements } from '@/store';
import { hashPassword, isPassword } from './passwords';
import { hashOfSecret, newSecret } from './secrets';
import { tooEasy } from './strength';

/** How long a one-time link holds, in milliseconds. */
const linkMs = 3 * 24 * 60 * 60 * 1000;
const dayMs = 24 * 60 * 60 * 1000;

/** What begins every token, so that one that got lost is known for what it is. */
export const tokenBegins = 'last_';

const iso = (time: number): string => new Date(time).toISOString();

/** Where a one-time link leads. */
export const linkPath = (secret: string): string => `/come-in?link=${secret}`;

/** Who may work here. Whatever changes that stands in the log. `by`: who does it, as colleagues call them. Times in milliseconds. */
export class People {
  readonly accounts: Accounts;

  constructor(
    readonly sql: Statements,
    readonly now: () => number = Date.now,
  ) {
    this.accounts = new Accounts(sql);
  }

  #together<T>(work: () => T): T {
    return this.sql.db.inTransaction ? work() : this.sql.db.transaction(work).immediate();
  }

  log(by: string, what: string, about: string): void {
    this.accounts.log(iso(this.now()), by, what, about);
  }

  of(id: number): AccountRow {
    return this.accounts.one(id) ?? refuse(404, 'account', 'This account is not there any more.');
  }

  /** Makes an account that nobody can use yet, with the link by which its password is set. */
  invite(given: { name: string; called: string; role: Role }, by: string): { account: AccountRow; link: Link } {
    return this.#together(() => {
      if (this.accounts.named(given.name)) refuse(409, 'name', `There is an account “${given.name}” already.`);
      const id = this.accounts.add(given, iso(this.now()));
      this.log(by, 'invited', `${given.name} as ${given.role}`);
      return { account: this.of(id), link: this.#link(id) };
    });
  }

  /** A link to a new password. The one before it ends. */
  link(id: number, by: string): Link {
    return this.#together(() => {
      const { name } = this.of(id);
      this.log(by, 'link', `to a new password of ${name}`);
      return this.#link(id);
    });
  }

  #link(id: number): Link {
    const secret = newSecret();
    const until = iso(this.now() + linkMs);
    this.accounts.endLinks(id);
    this.accounts.addLink(hashOfSecret(secret), id, until);
    return { path: linkPath(secret), until };
  }

  /** Whose link that is; null: it was used, has ended, or never was. */
  linked(secret: string): AccountRow | null {
    const link = this.accounts.link(hashOfSecret(secret));
    return link && Date.parse(link.until) > this.now() ? this.accounts.one(link.account) : null;
  }

  /** Sets the password of whoever a link is for; the link and all sessions end. null: the link does not hold. */
  async useLink(secret: string, password: string): Promise<AccountRow | null> {
    if (!this.linked(secret)) return null;
    const hashed = await hashPassword(password);
    return this.#together(() => {
      // Used by another while the password was worked out.
      const account = this.linked(secret);
      if (!account) return null;
      this.accounts.endLinks(account.id);
      this.accounts.endSessions(account.id);
      this.accounts.setPassword(account.id, hashed);
      this.log(account.called, 'password', `${account.name} set one by a link`);
      return account;
    });
  }

  /**
   * Whom a provider means: by what it was bound to, or, the first time, by an address that the provider has verified and an account has as its name.
   * An account that is bound to someone is nobody else's, whoever gets its address later.
   */
  provided(issuer: string, subject: string, claims: Record<string, unknown>): AccountRow | null {
    return this.#together(() => {
      const known = this.accounts.identified(issuer, subject);
      if (known) return known;
      const { email, email_verified: verified } = claims;
      const account = typeof email === 'string' && verified === true ? this.accounts.named(email) : null;
      if (!account || this.accounts.isBound(account.id)) return null;
      this.accounts.bind(issuer, subject, account.id);
      this.log(account.called, 'provider', `${account.name} is bound to who signed in at ${issuer}`);
      return account;
    });
  }

  async changePassword(id: number, was: string, password: string, session: string): Promise<void> {
    const account = this.of(id);
    if (!(await isPassword(was, account.password))) refuse(403, 'password', 'That is not your password up to now.');
    const easy = tooEasy(password, [account.name, account.called]);
    if (easy) refuse(400, 'password', easy);
    const hashed = await hashPassword(password);
    this.#together(() => {
      this.accounts.setPassword(id, hashed);
      this.accounts.endSessions(id, session);
      this.log(account.called, 'password', `${account.name} changed it`);
    });
  }

  change(id: number, given: { called?: string | undefined; role?: Role | undefined }, by: string): AccountRow {
    return this.#together(() => {
      const before = this.of(id);
      const role = given.role ?? before.role;
      const called = given.called ?? before.called;
      if (before.role === 'owner' && role !== 'owner') this.#keepsAnOwner(before);
      this.accounts.change(id, { called, role });
      if (role !== before.role) this.log(by, 'role', `${before.name}: ${before.role} → ${role}`);
      if (called !== before.called) this.log(by, 'name', `${before.name} is called ${called} now`);
      return this.of(id);
    });
  }

  remove(id: number, by: string): void {
    this.#together(() => {
      const account = this.of(id);
      if (account.role === 'owner') this.#keepsAnOwner(account);
      this.accounts.remove(id);
      this.log(by, 'removed', `${account.name}, ${account.role}`);
    });
  }

  /** Ends sessions and open links of an account; all but the session given. */
  endSessions(id: number, by: string, but = ''): void {
    this.#together(() => {
      const { name } = this.of(id);
      this.accounts.endSessions(id, but);
      this.accounts.endLinks(id);
      this.log(by, 'sessions', `of ${name} ended on every device`);
    });
  }

  makeToken(id: number, given: { name: string; rights: Right[]; days: number }): { id: number; token: string } {
    return this.#together(() => {
      const { called } = this.of(id);
      const token = tokenBegins + newSecret();
      const { name, rights } = given;
      const [madeAt, until] = [iso(this.now()), iso(this.now() + given.days * dayMs)];
      const made = this.accounts.addToken(hashOfSecret(token), id, { name, rights, madeAt, until });
      this.log(called, 'token', `“${name}” made, for ${rights.join(', ')}, until ${until.slice(0, 10)}`);
      return { id: made, token };
    });
  }

  endToken(token: number, account: number): void {
    this.#together(() => {
      const name = this.accounts.tokens(account).find(({ id }) => id === token)?.name;
      if (!this.accounts.endToken(token, account)) refuse(404, 'token', 'This token is not there any more.');
      this.log(this.of(account).called, 'token', `“${name}” ended`);
    });
  }

  /** Whoever says who may work here stays: there is an owner who can sign in. */
  #keepsAnOwner(gone: AccountRow): void {
    const canSignIn = gone.password !== null || this.accounts.isBound(gone.id);
    if (this.accounts.owners() - (canSignIn ? 1 : 0) < 1)
      refuse(409, 'last-owner', `${gone.called} is the only owner who can sign in: make someone else one first.`);
  }
}

export interface Link {
  path: string;
  until: string;
}
