import type { ShopRow } from '@/core/catalogue';
import type { Statements } from './statements';
import { stateColumns, type StateRow } from './themes';

/** The state that is asked for: what is live, a draft, or a release. */
export type AskedState = { kind: 'shop' } | { kind: 'draft'; slug: string } | { kind: 'release'; number: number };

/** The shop's row, with the revision of its catalogue. */
export type RevisedShop = ShopRow & { revision: number };

/** What every request of the shop needs to know first. */
export interface Visit {
  /** null: there is no such state. */
  state: StateRow | null;
  /** null: no catalogue was brought in yet. */
  shop: RevisedShop | null;
  /** How many things are in the visitor's cart. */
  has: number;
}

/** `'id', id, 'madeAt', made_at`: what json_object takes. */
const stateFields = stateColumns
  .split(', ')
  .map((column) => {
    const [name = '', alias = name] = column.split(' AS ');
    return `'${alias}', ${name}`;
  })
  .join(', ');

const stateIs = {
  shop: 'id = (SELECT state_id FROM live)',
  draft: "kind = 'draft' AND slug = ? AND removed_at IS NULL",
  release: 'number = ?',
};

const shopObject = `SELECT json_object('name', name, 'currency', currency, 'locale', locale, 'locales', json(locales), 'url', url,
  'email', email, 'revision', (SELECT revision FROM catalogue_state)) FROM shop`;
const cartSum = `SELECT coalesce(sum(l.quantity), 0) FROM cart_line l JOIN cart c ON c.id = l.cart_id WHERE c.token = ?`;

/** Answers it all in one query. `token`: of the visitor's cart; null: they have none. `carts`: where those are kept, if elsewhere. */
export function visitOf(sql: Statements, asked: AskedState, token: string | null, carts = sql): Visit {
  if (carts !== sql && token !== null) {
    const has = carts.get<{ has: number }>(`SELECT (${cartSum}) AS has`, token)?.has ?? 0;
    return { ...visitOf(sql, asked, null), has };
  }
  const which = asked.kind === 'shop' ? [] : [asked.kind === 'draft' ? asked.slug : asked.number];
  const row = sql.get<{ state: string | null; shop: string | null; has: number }>(
    `SELECT (SELECT json_object(${stateFields}) FROM state WHERE ${stateIs[asked.kind]}) AS state,
       (${shopObject}) AS shop, ${token === null ? '0' : `(${cartSum})`} AS has`,
    ...which,
    ...(token === null ? [] : [token]),
  ) as { state: string | null; shop: string | null; has: number };
  return { state: stateText.read(row.state), shop: shopText.read(row.shop), has: row.has };
}

/** Reads JSON that mostly is as it was the last time. What it gives is not changed. */
class LastRead<T extends object> {
  #text: string | null = null;
  #value: T | null = null;

  read(text: string | null): T | null {
    if (text !== this.#text) {
      this.#value = text === null ? null : Object.freeze(JSON.parse(text) as T);
      this.#text = text;
    }
    return this.#value;
  }
}

const stateText = new LastRead<StateRow>();
const shopText = new LastRead<RevisedShop>();
