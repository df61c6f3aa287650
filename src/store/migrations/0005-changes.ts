/**
 * Which products changed since a revision of the catalogue, so that only they are worked out again; `whole` is the latest
 * revision at which more changed than products one by one.
 */
export const changes = `
ALTER TABLE catalogue_state ADD COLUMN whole INTEGER NOT NULL DEFAULT 0;
UPDATE catalogue_state SET whole = revision;
ALTER TABLE product ADD COLUMN revision INTEGER NOT NULL DEFAULT 0;
CREATE INDEX product_revision ON product(revision);
`;
