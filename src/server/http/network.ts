/** What counts as one network address: of IPv6, the part that one customer has to themselves. */
export function networkOf(address: string): string {
  const plain = address.replace(/^::ffff:(?=\d+\.)/, '');
  if (!plain.includes(':')) return plain;
  const [head = '', tail] = plain.split('::');
  const first = head.split(':').filter(Boolean);
  const last = (tail ?? '').split(':').filter(Boolean);
  const zeros = tail === undefined ? 0 : 8 - first.length - last.length;
  return [...first, ...Array<string>(zeros).fill('0'), ...last].slice(0, 4).join(':');
}
