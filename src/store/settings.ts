import type { Statements } from './statements';

/** What owners set for all who work here. */
export interface Settings {
  /** Staff may publish a draft in which only what stands on shelves and words differ from what is live. */
  staffPublish: boolean;
}

const usual: Settings = { staffPublish: false };

export class StoredSettings {
  constructor(readonly sql: Statements) {}

  all(): Settings {
    const rows = this.sql.all<{ name: string; value: string }>('SELECT name, value FROM setting');
    const stored = Object.fromEntries(rows.map(({ name, value }) => [name, JSON.parse(value) as unknown]));
    return { staffPublish: stored.staffPublish === true || (stored.staffPublish === undefined && usual.staffPublish) };
  }

  set(name: keyof Settings, value: Settings[keyof Settings]): void {
    const sql =
      'INSERT INTO setting (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value';
    this.sql.run(sql, name, JSON.stringify(value));
  }
}
