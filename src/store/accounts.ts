import type { Statements } from './statements';

export type StoredRole = 'owner' | 'developer' | 'staff' | 'reader';

export interface AccountRow {
  id: number;
  /** What they sign in with. */
  name: string;
  /** What colleagues read beside changes. */
  called: string;
  role: StoredRole;
  /** argon2id, as the PHC string format writes it; null: none yet. */
  password: string | null;
  seenAt: string | null;
}

export interface SessionRow {
  accountId: number;
  name: string;
  called: string;
  role: StoredRole;
  seenAt: string;
  until: string;
}

export interface TokenRow {
  id: number;
  name: string;
  rights: string[];
  madeAt: string;
  until: string;
  seenAt: string | null;
}

export interface LogRow {
  id: number;
  at: string;
  by: string;
  what: string;
  about: string;
}

/** What entries of the log are asked for; '' asks nothing. */
export interface LogAsk {
  by: string;
  what: string;
  words: string;
  /** Entries before that number only. */
  before?: number | undefined;
}

const columns = 'id, name, called, role, password, seen_at AS seenAt';

/** Accounts, their sessions, one-time links and tokens, each found by the hash of its secret; and the log. Times are ISO 8601, UTC. */
export class Accounts {
  constructor(readonly sql: Statements) {}

  list(): (AccountRow & { sessions: number })[] {
    return this.sql.all(
      `SELECT ${columns}, (SELECT count(*) FROM session WHERE account_id = account.id) AS sessions FROM account ORDER BY name`,
    );
  }

  one(id: number): AccountRow | null {
    return this.sql.get<AccountRow>(`SELECT ${columns} FROM account WHERE id = ?`, id) ?? null;
  }

  named(name: string): AccountRow | null {
    return this.sql.get<AccountRow>(`SELECT ${columns} FROM account WHERE name = ?`, name) ?? null;
  }

  /** Owners who can sign in. */
  owners(): number {
    const sql = `SELECT count(*) AS count FROM account WHERE role = 'owner' AND
      (password IS NOT NULL OR EXISTS (SELECT 1 FROM identity WHERE account_id = account.id))`;
    return this.sql.get<{ count: number }>(sql)?.count ?? 0;
  }

  add({ name, called, role }: Pick<AccountRow, 'name' | 'called' | 'role'>, at: string): number {
    const sql = 'INSERT INTO account (name, called, role, made_at) VALUES (?, ?, ?, ?)';
    return this.sql.run(sql, name, called, role, at).id;
  }

  change(id: number, { called, role }: Pick<AccountRow, 'called' | 'role'>): void {
    this.sql.run('UPDATE account SET called = ?, role = ? WHERE id = ?', called, role, id);
  }

  setPassword(id: number, password: string): void {
    this.sql.run('UPDATE account SET password = ? WHERE id = ?', password, id);
  }

  remove(id: number): void {
    this.sql.run('DELETE FROM account WHERE id = ?', id);
  }

  /** Whose account a provider's subject was bound to. */
  identified(issuer: string, subject: string): AccountRow | null {
    const sql = 'SELECT account_id AS id FROM identity WHERE issuer = ? AND subject = ?';
    const found = this.sql.get<{ id: number }>(sql, issuer, subject);
    return found ? this.one(found.id) : null;
  }

  /** Whether an account is bound to anyone of a provider. */
  isBound(account: number): boolean {
    return this.sql.get('SELECT 1 FROM identity WHERE account_id = ?', account) !== undefined;
  }

  bind(issuer: string, subject: string, account: number): void {
    this.sql.run('INSERT INTO identity (issuer, subject, account_id) VALUES (?, ?, ?)', issuer, subject, account);
  }

  openSession(hash: string, account: number, at: string, until: string): void {
    const sql = 'INSERT INTO session (hash, account_id, made_at, seen_at, until) VALUES (?, ?, ?, ?, ?)';
    this.sql.run(sql, hash, account, at, at, until);
    this.sql.run('UPDATE account SET seen_at = ? WHERE id = ?', at, account);
  }

  session(hash: string): SessionRow | null {
    const sql = `SELECT s.account_id AS accountId, a.name, a.called, a.role, s.seen_at AS seenAt, s.until
       FROM session s JOIN account a ON a.id = s.account_id WHERE s.hash = ?`;
    return this.sql.get<SessionRow>(sql, hash) ?? null;
  }

  sessionSeen(hash: string, account: number, at: string): void {
    this.sql.run('UPDATE session SET seen_at = ? WHERE hash = ?', at, hash);
    this.sql.run('UPDATE account SET seen_at = ? WHERE id = ?', at, account);
  }

  endSession(hash: string): void {
    this.sql.run('DELETE FROM session WHERE hash = ?', hash);
  }

  /** Ends all sessions of an account, but for the one given. */
  endSessions(account: number, but = ''): void {
    this.sql.run('DELETE FROM session WHERE account_id = ? AND hash <> ?', account, but);
  }

  endLinks(account: number): void {
    this.sql.run('DELETE FROM one_time_link WHERE account_id = ?', account);
  }

  addLink(hash: string, account: number, until: string): void {
    this.sql.run('INSERT INTO one_time_link (hash, account_id, until) VALUES (?, ?, ?)', hash, account, until);
  }

  link(hash: string): { account: number; until: string } | null {
    const sql = 'SELECT account_id AS account, until FROM one_time_link WHERE hash = ?';
    return this.sql.get<{ account: number; until: string }>(sql, hash) ?? null;
  }

  /** Forgets what has ended by its time. */
  forgetEnded(at: string): void {
    for (const table of ['session', 'one_time_link', 'access_token'])
      this.sql.run(`DELETE FROM ${table} WHERE until < ?`, at);
  }

  tokens(account: number): TokenRow[] {
    return this.sql
      .all<Omit<TokenRow, 'rights'> & { rights: string }>(
        `SELECT id, name, rights, made_at AS madeAt, until, seen_at AS seenAt FROM access_token
         WHERE account_id = ? ORDER BY id`,
        account,
      )
      .map((row) => ({ ...row, rights: row.rights.split(' ') }));
  }

  addToken(hash: string, account: number, { name, rights, madeAt, until }: Omit<TokenRow, 'id' | 'seenAt'>): number {
    const sql = 'INSERT INTO access_token (hash, account_id, name, rights, made_at, until) VALUES (?, ?, ?, ?, ?, ?)';
    return this.sql.run(sql, hash, account, name, rights.join(' '), madeAt, until).id;
  }

  token(hash: string): (Omit<SessionRow, 'seenAt'> & { id: number; rights: string[]; seenAt: string | null }) | null {
    const row = this.sql.get<Omit<SessionRow, 'seenAt'> & { id: number; rights: string; seenAt: string | null }>(
      `SELECT t.id, t.account_id AS accountId, a.name, a.called, a.role, t.rights, t.until, t.seen_at AS seenAt
       FROM access_token t JOIN account a ON a.id = t.account_id WHERE t.hash = ?`,
      hash,
    );
    return row ? { ...row, rights: row.rights.split(' ') } : null;
  }

  tokenSeen(id: number, at: string): void {
    this.sql.run('UPDATE access_token SET seen_at = ? WHERE id = ?', at, id);
  }

  /** False: the account has no such token. */
  endToken(id: number, account: number): boolean {
    return this.sql.run('DELETE FROM access_token WHERE id = ? AND account_id = ?', id, account).changes > 0;
  }

  endTokens(account: number): void {
    this.sql.run('DELETE FROM access_token WHERE account_id = ?', account);
  }

  log(at: string, by: string, what: string, about: string): void {
    this.sql.run('INSERT INTO log (at, by, what, about) VALUES (?, ?, ?, ?)', at, by, what, about);
  }

  /** Entries, the latest first. */
  entries({ by, what, words, before }: LogAsk, limit: number): LogRow[] {
    const pattern = `%${words.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
    return this.sql.all<LogRow>(
      `SELECT id, at, by, what, about FROM log
       WHERE (? = '' OR by = ?) AND (? = '' OR what = ?) AND (? = '' OR about LIKE ? ESCAPE '\\') AND id < ?
       ORDER BY id DESC LIMIT ?`,
      ...[by, by, what, what, words, pattern, before ?? Number.MAX_SAFE_INTEGER, limit],
    );
  }

  /** The kinds of entries that there are, and who made them. */
  logNames(): { kinds: string[]; people: string[] } {
    const names = (column: string) =>
      this.sql.all<{ name: string }>(`SELECT DISTINCT ${column} AS name FROM log ORDER BY 1`).map(({ name }) => name);
    return { kinds: names('what'), people: names('by') };
  }
}
