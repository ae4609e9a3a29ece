import crc32 from 'crc-32';
import { unzipSync, zipSync } from 'fflate';
import { AWKWARD, type Random } from './random.ts';

/** A file that is nearly right. */
export type Mutate = (bytes: Uint8Array, random: Random) => Uint8Array;

export const joined = (parts: readonly Uint8Array[]): Uint8Array => new Uint8Array(Buffer.concat(parts));

/** Any file: bits, bytes, ranges; what is cut off, doubled or put in. */
const bitFlips: Mutate = (bytes, random) => {
  const out = bytes.slice();
  for (let i = 0; i <= random.below(8); i++) out[random.below(out.length)]! ^= 1 << random.below(8);
  return out;
};
const byteSets: Mutate = (bytes, random) => {
  const out = bytes.slice();
  for (let i = 0; i <= random.below(16); i++) out[random.below(out.length)] = random.pick(AWKWARD) & 255;
  return out;
};
const cutOff: Mutate = (bytes, random) => bytes.slice(0, random.below(bytes.length));
const cutOut: Mutate = (bytes, random) => {
  const at = random.below(bytes.length);
  return joined([bytes.slice(0, at), bytes.slice(at + 1 + random.below(64))]);
};
const doubled: Mutate = (bytes, random) => {
  const at = random.below(bytes.length);
  const range = bytes.slice(at, at + 1 + random.below(512));
  return joined([bytes.slice(0, at), range, range, bytes.slice(at)]);
};
const junkIn: Mutate = (bytes, random) => {
  const at = random.below(bytes.length);
  const junk = Uint8Array.from({ length: random.below(256) }, () => random.below(256));
  return joined([bytes.slice(0, at), junk, bytes.slice(at)]);
};
/** A length, a count or an offset somewhere in the first part, where formats keep them. */
const awkwardNumber: Mutate = (bytes, random) => {
  const out = bytes.slice();
  const view = new DataView(out.buffer);
  const wide = random.pick([2, 4]);
  const at = random.below(Math.max(1, Math.min(out.length, 2048) - wide));
  const value = random.pick(AWKWARD);
  if (at + wide > out.length) return out;
  if (wide === 2) view.setUint16(at, value & 0xffff, random.below(2) === 0);
  else view.setUint32(at, value >>> 0, random.below(2) === 0);
  return out;
};
export const ANY: readonly Mutate[] = [bitFlips, byteSets, cutOff, cutOut, doubled, junkIn, awkwardNumber];

/** The chunks of a PNG (ISO/IEC 15948, section 5.3), each whole: their sums are made right again after a change. */
function chunksOf(png: Uint8Array): { name: string; data: Uint8Array }[] {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const chunks: { name: string; data: Uint8Array }[] = [];
  for (let at = 8; at + 12 <= png.length; ) {
    const length = view.getUint32(at);
    chunks.push({
      name: Buffer.from(png.subarray(at + 4, at + 8)).toString('latin1'),
      data: png.slice(at + 8, at + 8 + length),
    });
    at += 12 + length;
  }
  return chunks;
}

function pngOf(chunks: readonly { name: string; data: Uint8Array }[]): Uint8Array {
  const parts: Uint8Array[] = [Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)];
  for (const { name, data } of chunks) {
    const named = joined([Buffer.from(name, 'latin1'), data]);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeInt32BE(crc32.buf(named));
    parts.push(length, named, sum);
  }
  return joined(parts);
}

const inChunks =
  (change: (chunks: { name: string; data: Uint8Array }[], random: Random) => void): Mutate =>
  (bytes, random) => {
    const chunks = chunksOf(bytes);
    change(chunks, random);
    return pngOf(chunks);
  };

/** PNG: what a sum that is right again no longer shows. */
export const PNG: readonly Mutate[] = [
  inChunks((chunks, random) => {
    const one = random.pick(chunks);
    if (one.data.length > 0) one.data[random.below(one.data.length)] = random.below(256);
  }),
  inChunks((chunks, random) => {
    const header = chunks[0]!.data;
    new DataView(header.buffer).setUint32(random.pick([0, 4]), random.pick(AWKWARD));
  }),
  inChunks((chunks, random) => {
    const header = chunks[0]!.data;
    header[random.pick([8, 9, 10, 11, 12])] = random.below(32);
  }),
  inChunks((chunks, random) => chunks.splice(random.below(chunks.length), 1)),
  inChunks((chunks, random) => chunks.push(random.pick(chunks))),
  inChunks((chunks) => chunks.reverse()),
  inChunks((chunks, random) => {
    random.pick(chunks).name = random.pick(['IDAT', 'PLTE', 'tRNS', 'iCCP', 'acTL', 'fcTL', 'fdAT', 'zTXt']);
  }),
];

/** Names that climb, lead elsewhere, mean something to a system, or cannot be kept. */
export const CLIMBING = [
  '../out.png',
  '../../../../../../tmp/keen-climbed',
  '/tmp/keen-climbed',
  '..\\..\\out.png',
  'C:\\Windows\\out.png',
  'a/../../out.png',
  'a/./b/../../../out',
  '%2e%2e/out.png',
  '....//out.png',
  'con',
  'nul.png',
  'a\u0000.png',
  '\u202egnp.exe',
  '',
  '.',
  '..',
  'x'.repeat(5000),
  '~/out.png',
  '$(id).png',
  '-rf',
];

/** Zips (APPNOTE.TXT 6.3.10): parts that are nearly right, and central directories that lie. */
export const ZIP: readonly Mutate[] = [
  (bytes, random) => {
    const parts = unzipSync(bytes);
    const name = random.pick(Object.keys(parts));
    parts[name] = new Uint8Array(random.pick(ANY)(parts[name]!, random));
    return zipSync(parts);
  },
  (bytes, random) => {
    const parts = unzipSync(bytes);
    const name = random.pick(Object.keys(parts));
    const { [name]: part, ...others } = parts;
    return zipSync({ ...others, [random.pick(CLIMBING) || 'x']: part! });
  },
  (bytes, random) => {
    const parts = unzipSync(bytes);
    delete parts[random.pick(Object.keys(parts))];
    return zipSync(parts);
  },
  // Text parts: what they say of sizes, names and one another.
  (bytes, random) => {
    const parts = unzipSync(bytes);
    const texts = Object.keys(parts).filter((name) => /\.(xml|json)$/.test(name));
    if (texts.length === 0) return bytes;
    const name = random.pick(texts);
    const text = Buffer.from(parts[name]!).toString('utf8');
    const numbers = [...text.matchAll(/-?\d+(\.\d+)?/g)];
    const one = random.pick(numbers);
    if (!one) return bytes;
    const value = random.pick(['-1', '0', '1e308', '-1e308', '99999999999', 'NaN', '""', 'null', '0.1e-300']);
    parts[name] = Buffer.from(text.slice(0, one.index) + value + text.slice(one.index + one[0].length));
    return zipSync(parts);
  },
  // Sizes in local headers and in the directory.
  (bytes, random) => {
    const out = bytes.slice();
    const view = new DataView(out.buffer);
    const heads: number[] = [];
    for (let at = 0; at + 46 < out.length; at++)
      if ([0x04034b50, 0x02014b50, 0x06054b50].includes(view.getUint32(at, true))) heads.push(at);
    if (heads.length === 0) return out;
    view.setUint32(
      random.pick(heads) + random.pick([8, 16, 18, 20, 22, 24, 28, 42]),
      random.pick(AWKWARD),
      true,
    );
    return out;
  },
  // An archive in itself.
  (bytes) => zipSync({ ...unzipSync(bytes), 'inner.zip': bytes, 'inner/inner.ora': bytes }),
];

/** XML and SVG: entities, references, depth, numbers that are none. */
export const XML: readonly Mutate[] = [
  (bytes) => {
    const text = Buffer.from(bytes)
      .toString('utf8')
      .replace(/^<\?xml[^>]*>/, '');
    return Buffer.from(
      `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]>${text.replace('>', '>&e;')}`,
    );
  },
  (bytes) => {
    const laughs = Array.from({ length: 12 }, (_, i) => `<!ENTITY l${i + 1} "${`&l${i};`.repeat(10)}">`).join(
      '',
    );
    return Buffer.from(
      `<!DOCTYPE x [<!ENTITY l0 "ha">${laughs}]>${Buffer.from(bytes).toString('utf8').replace('>', '>&l12;')}`,
    );
  },
  (bytes, random) => {
    const depth = random.pick([200, 5000, 200_000]);
    return Buffer.from(
      Buffer.from(bytes)
        .toString('utf8')
        .replace('>', `>${'<g>'.repeat(depth)}${'</g>'.repeat(depth)}`),
    );
  },
  (bytes, random) => {
    const text = Buffer.from(bytes).toString('utf8');
    const one = random.pick([...text.matchAll(/\d+(\.\d+)?/g)]);
    const value = random.pick(['-1', '0', '1e38', '1e309', '99999999999', 'NaN', '', 'url(#self)', '100%']);
    return one
      ? Buffer.from(text.slice(0, one.index) + value + text.slice(one.index + one[0].length))
      : bytes;
  },
  (bytes) =>
    Buffer.from(
      Buffer.from(bytes)
        .toString('utf8')
        .replace(
          '>',
          '><image href="file:///etc/passwd" width="9" height="9"/><image href="http://127.0.0.1:9/x.png" width="9" height="9"/><use href="#self" id="self"/>',
        ),
    ),
];
