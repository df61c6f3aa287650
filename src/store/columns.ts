import type { Statements } from './statements';

/**
 * A query's answer as one list a column: each comes as one JSON array, which for the hundred thousands of rows of a large
 * catalogue is several times faster than row by row.
 */
export function readColumns(sql: Statements, columns: number, query: string, ...values: unknown[]): unknown[][] {
  const names = Array.from({ length: columns }, (_, at) => `c${at + 1}`);
  const lists = names.map((name) => `json_group_array(${name}) AS ${name}`).join(', ');
  const row = sql.get<Record<string, string>>(
    `WITH found(${names.join(', ')}) AS (${query}) SELECT ${lists} FROM found`,
    ...values,
  );
  return names.map((name) => JSON.parse(row?.[name] ?? '[]') as unknown[]);
}
