import { inflateRawSync } from 'node:zlib';

/** The files of a ZIP archive by their paths, read by its directory at the end (APPNOTE 4.3.12 and 4.3.7). */
export function filesOfZip(zip: Buffer): Map<string, Buffer> {
  const end = zip.lastIndexOf(Buffer.from('PK\u0005\u0006', 'latin1'));
  if (end < 0) throw new Error('it has no directory');
  const files = new Map<string, Buffer>();
  let at = zip.readUInt32LE(end + 16);
  for (let k = zip.readUInt16LE(end + 10); k > 0; k--) {
    const [method, packed] = [zip.readUInt16LE(at + 10), zip.readUInt32LE(at + 20)];
    const [name, extra, comment] = [28, 30, 32].map((offset) => zip.readUInt16LE(at + offset));
    const local = zip.readUInt32LE(at + 42);
    const path = zip.toString('utf8', at + 46, at + 46 + name!);
    const from = local + 30 + zip.readUInt16LE(local + 26) + zip.readUInt16LE(local + 28);
    const content = zip.subarray(from, from + packed);
    files.set(path, method === 0 ? content : inflateRawSync(content));
    at += 46 + name! + extra! + comment!;
  }
  return files;
}
