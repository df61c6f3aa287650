import { describe, expect, it } from 'vitest';
import { cookieText, type CookieKind } from './cookies';

describe('cookies', () => {
  const table: [kind: CookieKind, secure: boolean, text: string][] = [
    ['session', false, 'last_session=v; Path=/; Max-Age=60; HttpOnly; SameSite=Strict'],
    ['session', true, '__Host-last_session=v; Path=/; Max-Age=60; HttpOnly; SameSite=Strict; Secure'],
    ['cart', false, 'last_cart=v; Path=/; Max-Age=60; HttpOnly; SameSite=Lax'],
    ['cart', true, 'last_cart=v; Path=/; Max-Age=60; HttpOnly; SameSite=Lax; Secure'],
    ['framed-cart', false, 'last_cart=v; Path=/; Max-Age=60; HttpOnly; SameSite=None; Secure; Partitioned'],
    ['framed-cart', true, 'last_cart=v; Path=/; Max-Age=60; HttpOnly; SameSite=None; Secure; Partitioned'],
  ];
  for (const [kind, secure, text] of table) {
    it(`${kind}${secure ? ' by HTTPS' : ''}`, () => expect(cookieText(kind, 'v', 60, secure)).toBe(text));
    it(`${kind}${secure ? ' by HTTPS' : ''} is one that a browser takes (RFC 6265bis, 5.7; CHIPS for Partitioned)`, () => {
      const [pair = '', ...flags] = cookieText(kind, 'v', 60, secure).split('; ');
      const has = (flag: string) => flags.includes(flag);
      expect([
        !pair.startsWith('__Host-') || (has('Secure') && has('Path=/') && !flags.some((one) => /^Domain/.test(one))),
        !has('SameSite=None') || has('Secure'),
        !has('Partitioned') || has('Secure'),
        has('HttpOnly'),
      ]).toEqual([true, true, true, true]);
    });
  }
});
