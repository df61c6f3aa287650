import { expect, it } from 'vitest';
import { contentType } from './content-type';

it.each([
  ['assets/css/site.css', 'text/css; charset=utf-8'],
  ['assets/js/site.js', 'text/javascript; charset=utf-8'],
  ['assets/icons/cart.svg', 'image/svg+xml'],
  ['assets/images/A.JPG', 'image/jpeg'],
  ['assets/images/a.avif', 'image/avif'],
  ['assets/fonts/a.woff2', 'font/woff2'],
  ['assets/fonts/a.woff', 'font/woff'],
  ['assets/films/a.mp4', 'video/mp4'],
  ['words/en.json', 'application/json'],
  ['assets/page.html', 'application/octet-stream'],
  ['assets/page.xhtml', 'application/octet-stream'],
  ['assets/feed.xml', 'application/octet-stream'],
  ['assets/unknown.q', 'application/octet-stream'],
  ['assets/without', 'application/octet-stream'],
])('%s is %s', (path, type) => expect(contentType(path)).toBe(type));
