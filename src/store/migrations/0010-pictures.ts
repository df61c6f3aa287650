/**
 * Pictures' bytes stand once, by their hash, and stay while the history of goods names them; a file says how large it is as it is shown,
 * in pixels and bytes (width and height are not known of films, nor of what came before).
 */
export const pictures = `
CREATE TABLE media_content (hash TEXT PRIMARY KEY, bytes BLOB NOT NULL) STRICT;
INSERT OR IGNORE INTO media_content (hash, bytes) SELECT hash, bytes FROM media_file;
ALTER TABLE media_file ADD COLUMN width INTEGER;
ALTER TABLE media_file ADD COLUMN height INTEGER;
ALTER TABLE media_file ADD COLUMN size INTEGER NOT NULL DEFAULT 0;
UPDATE media_file SET size = length(bytes);
ALTER TABLE media_file DROP COLUMN bytes;
CREATE INDEX media_file_hash ON media_file(hash);
CREATE INDEX media_path ON media(path);
`;
