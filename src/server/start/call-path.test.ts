import { expect, it } from 'vitest';
import { callPath } from './call-path';

it.each([
  ['/bench?draft=spring', '/bench'],
  // Names in addresses of calls are left out, parts that all of them share are not.
  ['/api/orders/1024', '/api/orders/*'],
  ['/api/drafts/spring/file?path=look.json', '/api/drafts/*/file'],
  ['/api/nothing/unknown', '/api/*/*'],
  [`/api/drafts/${'a'.repeat(500)}`, '/api/drafts/*'],
])('in the log %s is %s', (url, path) => expect(callPath(url)).toBe(path));
