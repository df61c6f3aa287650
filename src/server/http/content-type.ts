import mime from 'mime';

/** What a browser would open as a page of its own, with scripts: a file of a theme is not sent as such. */
const documents = new Set(['text/html', 'application/xhtml+xml', 'application/xml', 'text/xml']);

/** The `Content-Type` of a file by its name; of a kind that is not known, bytes. */
export function contentType(path: string): string {
  const type = mime.getType(path);
  if (type === null || documents.has(type)) return 'application/octet-stream';
  return type.startsWith('text/') ? `${type}; charset=utf-8` : type;
}
