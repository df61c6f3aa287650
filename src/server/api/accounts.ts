import { stringify } from 'csv-stringify/sync';
import { accountEndpoints } from '@/contract/accounts';
import { allRights } from '@/contract/roles';
import { People } from '@/server/accounts';
import { may, refuse } from '@/server/http';
import type { Shop } from '@/server/shop';
import { type AccountRow, Accounts, StoredSettings } from '@/store';
import { hereName } from './noted';
import { serveAll } from './serve';

/** Entries of the log that are sent at once, and as one sheet at most. */
const page = 100;
const sheet = 100_000;

const personOf = ({ id, name, called, role, seenAt, password }: AccountRow, sessions: number) => ({
  ...{ id, name, called, role, seenAt, sessions },
  joined: password !== null,
});
const peopleOf = (shop: Shop) => new People(shop.sql);
const sessionsOf = (shop: Shop, id: number): number =>
  new Accounts(shop.sql).list().find((one) => one.id === id)?.sessions ?? 0;

const signedIn = (account: number): number =>
  account ||
  refuse(
    409,
    'no-account',
    'Whoever works at this machine has no account: Last asks for one where others can reach it.',
  );

const settingsOf = (shop: Shop) => new StoredSettings(shop.sql);

export const accountCalls = serveAll(accountEndpoints, {
  me: ({ who }) => ({
    ...{ signedIn: who.account !== 0, name: who.name, called: who.called, role: who.role },
    rights: allRights.filter((right) => may(who, right)),
  }),
  password: async ({ shop, who, body }) => {
    await peopleOf(shop).changePassword(signedIn(who.account), body.was, body.now, who.session);
    return {};
  },
  endMine: ({ shop, who, by }) => {
    peopleOf(shop).endSessions(signedIn(who.account), by);
    return {};
  },
  tokens: ({ shop, who }) => ({ tokens: new Accounts(shop.sql).tokens(who.account) as never }),
  makeToken: ({ shop, who, body }) => {
    // A token may never do more than whoever makes it.
    for (const right of body.rights)
      if (!may(who, right)) refuse(403, 'right', `You may not give a token what you may not do: ${right}.`);
    const { id, token } = peopleOf(shop).makeToken(signedIn(who.account), body);
    const made = new Accounts(shop.sql).tokens(who.account).find((one) => one.id === id);
    return { token, made: made as never };
  },
  endToken: ({ shop, who, token }) => {
    peopleOf(shop).endToken(token, who.account);
    return {};
  },
  people: ({ shop }) => ({
    people: new Accounts(shop.sql).list().map(({ sessions, ...account }) => personOf(account, sessions)),
  }),
  invite: ({ shop, by, body }) => {
    const { account, link } = peopleOf(shop).invite(body, by || hereName);
    return { person: personOf(account, 0), link };
  },
  change: ({ shop, by, account, body }) =>
    personOf(peopleOf(shop).change(account, body, by || hereName), sessionsOf(shop, account)),
  link: ({ shop, by, account }) => peopleOf(shop).link(account, by || hereName),
  settings: ({ shop }) => settingsOf(shop).all(),
  set: ({ shop, by, body: { staffPublish } }) => {
    if (staffPublish !== undefined && staffPublish !== settingsOf(shop).all().staffPublish) {
      settingsOf(shop).set('staffPublish', staffPublish);
      peopleOf(shop).log(by || hereName, 'set', `staff ${staffPublish ? 'may' : 'may not'} publish pieces and words`);
    }
    return settingsOf(shop).all();
  },
  endSessions: ({ shop, by, account }) => {
    peopleOf(shop).endSessions(account, by || hereName);
    return {};
  },
  remove: ({ shop, by, account }) => {
    peopleOf(shop).remove(account, by || hereName);
    return {};
  },
  log: ({ shop, query }) => {
    const accounts = new Accounts(shop.sql);
    const found = accounts.entries(query, page + 1);
    return { entries: found.slice(0, page), ...accounts.logNames(), more: found.length > page };
  },
  logSheet: ({ shop, query }) => {
    const entries = new Accounts(shop.sql).entries(query, sheet);
    const text = stringify(entries, {
      header: true,
      columns: ['at', 'by', 'what', 'about'],
      // A cell that a spreadsheet would take for a formula is text.
      escape_formulas: true,
      record_delimiter: 'windows',
    });
    return new Response(text, {
      headers: {
        'Content-Type': 'text/csv; charset=utf-8',
        'Content-Disposition': 'attachment; filename="log.csv"',
        'Cache-Control': 'no-store',
      },
    });
  },
});
