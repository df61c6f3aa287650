const maxLength = 200;

/** The path of an address without what may be about a person: no query, nothing like an e-mail address. */
export function plainPath(url: string): string {
  const end = url.search(/[?#]/);
  const path = (end < 0 ? url : url.slice(0, end)).slice(0, maxLength);
  return /@|%40/.test(path) ? path.replace(/[^/]*(?:@|%40)[^/]*/g, '*') : path;
}
