import { describe, expect, it } from 'vitest';
import { cookieIn, cookieText, type CookieKind } from './cookies';

describe('cookies', () => {
  const common = ['HttpOnly', 'Max-Age=60', 'Path=/'];
  const table: [kind: CookieKind, secure: boolean, pair: string, flags: string[]][] = [
    ['session', false, 'last_session=v', [...common, 'SameSite=Strict']],
    ['session', true, '__Host-last_session=v', [...common, 'SameSite=Strict', 'Secure']],
    ['cart', false, 'last_cart=v', [...common, 'SameSite=Lax']],
    ['cart', true, 'last_cart=v', [...common, 'SameSite=Lax', 'Secure']],
    ['framed-cart', false, 'last_cart=v', [...common, 'Partitioned', 'SameSite=None', 'Secure']],
    ['framed-cart', true, 'last_cart=v', [...common, 'Partitioned', 'SameSite=None', 'Secure']],
  ];
  for (const [kind, secure, pair, flags] of table) {
    it(`${kind}${secure ? ' by HTTPS' : ''}`, () => {
      const [first, ...rest] = cookieText(kind, 'v', 60, secure).split('; ');
      expect([first, ...rest.sort()]).toEqual([pair, ...[...flags].sort()]);
    });
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
  it.each([
    ['last_cart=abc', 'abc'],
    ['other=1; last_cart=abc; last_cart=later', 'abc'],
    ['not_last_cart=abc', null],
    ['last_cart', null],
    ['', null],
    [undefined, null],
  ])('of %s the cart is %s', (header, value) => expect(cookieIn('cart', false, header)).toBe(value));
  it('a session by HTTPS is found under its own name only', () => {
    expect(cookieIn('session', true, 'last_session=a; __Host-last_session=b')).toBe('b');
    expect(cookieIn('session', true, 'last_session=a')).toBe(null);
  });
});
