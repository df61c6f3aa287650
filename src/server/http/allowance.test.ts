import { BlockList } from 'node:net';
import { describe, expect, it } from 'vitest';
import { Allowance, networkOf } from './allowance';

describe('what one party has of the network', () => {
  /** By Node's own BlockList, whether two addresses lie in one block: of 64 bits in IPv6, alone in IPv4. */
  const together = (a: string, b: string): boolean => {
    const list = new BlockList();
    const kind = a.includes(':') ? 'ipv6' : 'ipv4';
    list.addSubnet(a, kind === 'ipv6' ? 64 : 32, kind);
    return list.check(b, b.includes(':') ? 'ipv6' : 'ipv4');
  };
  const table: [a: string, b: string, same: boolean][] = [
    ['192.0.2.1', '192.0.2.1', true],
    ['192.0.2.1', '192.0.2.2', false],
    ['2001:db8::1', '2001:db8::2', true],
    ['2001:db8::1', '2001:0db8:0:0:ffff:ffff:ffff:ffff', true],
    ['2001:db8::1', '2001:db8:0:1::1', false],
    ['2001:db8:1:2:3:4:5:6', '2001:DB8:1:2::', true],
    ['fe80::1', 'fe80:0:0:0:1::', true],
    ['::1', '::2', true],
    ['1::', '1:0:0:0:9:9:9:9', true],
    ['1:2:3:4::', '1:2:3:5::', false],
  ];
  for (const [a, b, same] of table)
    it(`${a} and ${b}`, () => {
      expect([networkOf(a) === networkOf(b), together(a, b)]).toEqual([same, same]);
    });
  it('an IPv4 address as IPv6 sockets write it is that address', () =>
    expect(networkOf('::ffff:192.0.2.1')).toBe('192.0.2.1'));
});

it('so many are given to each, and no more', () => {
  const allowance = new Allowance(2, 60_000);
  const asked = ['192.0.2.1', '192.0.2.1', '192.0.2.1', '192.0.2.2'].map((address) => allowance.take(address));
  expect(asked).toEqual([true, true, false, true]);
});
it('again after the while', async () => {
  const allowance = new Allowance(1, 30);
  expect([allowance.take('192.0.2.1'), allowance.take('192.0.2.1')]).toEqual([true, false]);
  await expect.poll(() => allowance.take('192.0.2.1')).toBe(true);
});
