// Unpacks the typeface for paper: the PDF library reads TrueType, the registry ships WOFF 1.0 (W3C), which is TrueType with its tables
// compressed by zlib. Usage: node fonts.mjs DIRECTORY
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';

const into = process.argv[2];
const from = 'node_modules/@fontsource/atkinson-hyperlegible-next/files';

function unpack(woff) {
  if (woff.toString('latin1', 0, 4) !== 'wOFF') throw new Error('not a WOFF file');
  const flavor = woff.readUInt32BE(4);
  const count = woff.readUInt16BE(12);
  const tables = [];
  for (let at = 0; at < count; at++) {
    const entry = 44 + at * 20;
    const [tag, offset, packed, length, checksum] = [0, 4, 8, 12, 16].map((field) => woff.readUInt32BE(entry + field));
    const data = woff.subarray(offset, offset + packed);
    tables.push({ tag, checksum, data: packed < length ? inflateSync(data) : data });
  }
  const power = 2 ** Math.floor(Math.log2(count));
  const head = Buffer.alloc(12 + count * 16);
  head.writeUInt32BE(flavor, 0);
  head.writeUInt16BE(count, 4);
  head.writeUInt16BE(power * 16, 6);
  head.writeUInt16BE(Math.log2(power), 8);
  head.writeUInt16BE(count * 16 - power * 16, 10);
  const parts = [head];
  let offset = head.length;
  tables.forEach(({ tag, checksum, data }, at) => {
    [tag, checksum, offset, data.length].forEach((value, field) => head.writeUInt32BE(value, 12 + at * 16 + field * 4));
    const padded = Buffer.concat([data, Buffer.alloc((4 - (data.length % 4)) % 4)]);
    parts.push(padded);
    offset += padded.length;
  });
  return Buffer.concat(parts);
}

mkdirSync(into, { recursive: true });
for (const subset of ['latin', 'latin-ext']) {
  for (const weight of [400, 700]) {
    writeFileSync(
      join(into, `next-${subset}-${weight}.ttf`),
      unpack(readFileSync(join(from, `atkinson-hyperlegible-next-${subset}-${weight}-normal.woff`))),
    );
  }
}
