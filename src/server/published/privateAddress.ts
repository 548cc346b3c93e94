import { BlockList, isIPv6 } from 'node:net';

/** Networks that are nobody's in the web at large (RFC 6890 and its registries). */
const PRIVATE: [string, number][] = [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.0.2.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['198.51.100.0', 24],
  ['203.0.113.0', 24],
  ['224.0.0.0', 4],
  ['240.0.0.0', 4],
];
const PRIVATE_6: [string, number][] = [
  ['::', 127],
  ['64:ff9b:1::', 48],
  ['100::', 64],
  ['2001:db8::', 32],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
];

const blocked = new BlockList();
for (const [network, bits] of PRIVATE) blocked.addSubnet(network, bits, 'ipv4');
for (const [network, bits] of PRIVATE_6) blocked.addSubnet(network, bits, 'ipv6');

/** IPv4 inside IPv6: mapped, or by way of a translator (RFC 6052). */
const INSIDE = /^(?:::ffff:|64:ff9b::)(\d+\.\d+\.\d+\.\d+)$/i;
const INSIDE_HEX = /^(?:::ffff:|64:ff9b::)([0-9a-f]{1,4}):([0-9a-f]{1,4})$/i;

/** Whether a network address is one of a private network, this machine, or of no network at all. */
export function isPrivateAddress(address: string): boolean {
  if (!isIPv6(address)) return blocked.check(address, 'ipv4');
  const [, dotted] = INSIDE.exec(address) ?? [];
  if (dotted) return blocked.check(dotted, 'ipv4');
  const [, high, low] = INSIDE_HEX.exec(address) ?? [];
  if (high && low) {
    const value = parseInt(high, 16) * 65_536 + parseInt(low, 16);
    const parts = [24, 16, 8, 0].map((shift) => Math.floor(value / 2 ** shift) % 256);
    return blocked.check(parts.join('.'), 'ipv4');
  }
  return blocked.check(address, 'ipv6');
}
