import type { Untranslated } from '@/core/catalogue';

/** The texts of each kind of row that may stand in several languages. */
export const translatable = {
  product: ['name', 'summary', 'description'],
  variant: ['name'],
  option: ['name'],
  option_value: ['name'],
  media: ['alt'],
  tag: ['name'],
  category: ['name', 'summary', 'description'],
  brand: ['summary'],
  content: ['title', 'summary', 'body'],
  article: ['title', 'summary', 'body'],
  menu_item: ['label'],
  attribute: ['name', 'value'],
} as const satisfies Record<string, readonly string[]>;

export type TextKind = keyof typeof translatable;

/**
 * Texts in one language of a shop. Rows are read with their texts of that language as one JSON column `texts`; put over the
 * first language's, and what is not there is remembered. In the first language nothing is read and nothing is missing.
 */
export class Texts {
  readonly untranslated: Untranslated[] = [];
  readonly #seen = new Set<string>();

  constructor(readonly locale: string | null) {}

  /** The column, for a row whose number stands in `id`. */
  column(kind: TextKind, id: string): string {
    return `${this.json(kind, id)} AS texts`;
  }

  json(kind: TextKind, id: string): string {
    if (this.locale === null) return 'NULL';
    const locale = this.locale.replaceAll("'", "''");
    return `(SELECT json_group_object(field, value) FROM translation WHERE kind = '${kind}' AND locale = '${locale}' AND id = ${id})`;
  }

  /** Puts the texts over the row's own. */
  put<T extends object>(
    kind: TextKind,
    row: T & { texts?: string | Record<string, string> | null },
    /** A field that lists do not show: that it is missing is not a matter there. */
    unseen: string | null = null,
  ): T {
    const { texts, ...rest } = row as T & { id?: number; texts?: string | Record<string, string> | null };
    if (this.locale === null) return rest as unknown as T;
    const read = typeof texts === 'string' ? (JSON.parse(texts) as Record<string, string>) : (texts ?? {});
    const own = rest as unknown as Record<string, unknown>;
    for (const field of translatable[kind]) {
      const text = own[field];
      if (typeof text !== 'string' || !text) continue;
      if (read[field]) own[field] = read[field];
      else if (field !== unseen) this.miss({ kind, id: Number(own.id ?? 0), field, text });
    }
    return rest as unknown as T;
  }

  all<T extends object>(kind: TextKind, rows: T[], unseen: string | null = null): T[] {
    return rows.map((row) => this.put(kind, row, unseen));
  }

  /** Remembers a text that is not there, once. */
  miss(one: Untranslated): void {
    const key = `${one.kind} ${one.id} ${one.field}`;
    if (this.#seen.has(key)) return;
    this.#seen.add(key);
    this.untranslated.push(one);
  }
}
