import type { Statements } from './statements';

/** What owners set for all who work here. */
export interface Settings {
  /** Staff may publish a draft in which only what stands on shelves and words differ from what is live. */
  staffPublish: boolean;
}

const usual: Settings = { staffPublish: false };

/** A setting by its name; null: it was never set. */
export function readSetting<T>(sql: Statements, name: string): T | null {
  const row = sql.get<{ value: string }>('SELECT value FROM setting WHERE name = ?', name);
  return row ? (JSON.parse(row.value) as T) : null;
}

export function writeSetting(sql: Statements, name: string, value: unknown): void {
  sql.run(
    'INSERT INTO setting (name, value) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET value = excluded.value',
    name,
    JSON.stringify(value),
  );
}

export class StoredSettings {
  constructor(readonly sql: Statements) {}

  all(): Settings {
    return { staffPublish: readSetting<boolean>(this.sql, 'staffPublish') ?? usual.staffPublish };
  }

  set(name: keyof Settings, value: Settings[keyof Settings]): void {
    writeSetting(this.sql, name, value);
  }
}
