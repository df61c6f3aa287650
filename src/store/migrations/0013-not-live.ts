/** What is kept out of live: customers do not see it, drafts do. */
export const notLive = ['product', 'category', 'content', 'article']
  .map(
    (table) => `
ALTER TABLE ${table} ADD COLUMN live INTEGER NOT NULL DEFAULT 1 CHECK (live IN (0, 1));
CREATE INDEX ${table}_not_live ON ${table}(id) WHERE live = 0;
`,
  )
  .join('');
