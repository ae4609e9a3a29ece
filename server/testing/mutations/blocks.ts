import { joined, type Mutate } from './mutate.ts';
import { AWKWARD } from './random.ts';

/** A number of a file that says how the rest of it is read. */
interface Field {
  readonly at: number;
  readonly wide: 1 | 2 | 4;
}

/** Puts an awkward number into one of the fields that a reader goes by. */
const awkwardField =
  (fieldsOf: (view: DataView) => readonly Field[], little: boolean | ((view: DataView) => boolean)): Mutate =>
  (bytes, random) => {
    const out = bytes.slice();
    const view = new DataView(out.buffer);
    const { at, wide } = random.pick(fieldsOf(view));
    const value = random.pick(AWKWARD);
    const isLittle = typeof little === 'boolean' ? little : little(view);
    if (wide === 1) view.setUint8(at, value & 0xff);
    else if (wide === 2) view.setUint16(at, value & 0xffff, isLittle);
    else view.setUint32(at, value >>> 0, isLittle);
    return out;
  };

/** Lays the blocks of a file out in another way: one left out, one twice, two changed round. */
const otherOrder =
  (
    blocksOf: (bytes: Uint8Array) => Uint8Array[],
    whole: (blocks: readonly Uint8Array[]) => Uint8Array,
  ): Mutate =>
  (bytes, random) => {
    const blocks = blocksOf(bytes);
    const [one, other] = [random.below(blocks.length), random.below(blocks.length)];
    switch (random.below(3)) {
      case 0:
        blocks.splice(one, 1);
        break;
      case 1:
        blocks.splice(other, 0, blocks[one]!);
        break;
      default:
        [blocks[one], blocks[other]] = [blocks[other]!, blocks[one]!];
    }
    return whole(blocks);
  };

/** The end of a chain of sub-blocks (GIF89a, section 15): each begins with its length, the last is empty. */
function endOfChain(bytes: Uint8Array, from: number): number {
  let at = from;
  while (at < bytes.length && bytes[at] !== 0) at += bytes[at]! + 1;
  return at + 1;
}

/** Size in bytes of the colour table that a packed field tells of (GIF89a, section 18). */
const tableBytes = (packed: number): number => (packed & 0x80 ? 3 * 2 ** ((packed & 7) + 1) : 0);

/** Where the blocks of a GIF begin: its head first, the trailer last. */
function gifStarts(bytes: Uint8Array): number[] {
  const starts = [0];
  for (let at = 13 + tableBytes(bytes[10]!); at < bytes.length; ) {
    starts.push(at);
    if (bytes[at] === 0x21) at = endOfChain(bytes, at + 2);
    else if (bytes[at] === 0x2c) at = endOfChain(bytes, at + 10 + tableBytes(bytes[at + 9]!) + 1);
    else break;
  }
  return starts;
}

const gifBlocks = (bytes: Uint8Array): Uint8Array[] =>
  gifStarts(bytes).map((at, i, starts) => bytes.slice(at, starts[i + 1] ?? bytes.length));

/** GIF89a: screen and image descriptors, delays, code sizes, sub-blocks; blocks in another order. */
export const GIF: readonly Mutate[] = [
  awkwardField((view) => {
    const bytes = new Uint8Array(view.buffer);
    return [
      { at: 6, wide: 2 },
      { at: 8, wide: 2 },
      { at: 10, wide: 1 },
      ...gifStarts(bytes).flatMap((at): Field[] => {
        const own = at + 10 + tableBytes(bytes[at + 9] ?? 0);
        if (bytes[at] === 0x2c)
          return [
            ...[1, 3, 5, 7].map((by): Field => ({ at: at + by, wide: 2 })),
            { at: at + 9, wide: 1 },
            { at: own, wide: 1 },
            { at: own + 1, wide: 1 },
          ];
        return bytes[at] === 0x21 && bytes[at + 1] === 0xf9
          ? [
              { at: at + 3, wide: 1 },
              { at: at + 4, wide: 2 },
            ]
          : [];
      }),
    ];
  }, true),
  otherOrder(gifBlocks, joined),
];

const isLittleTiff = (view: DataView): boolean => view.getUint8(0) === 0x49;

/** Where the entries of a TIFF's first directory lie (TIFF 6.0, section 2): tag, type, count and value, 12 bytes each. */
function tiffEntries(view: DataView): number[] {
  const at = view.getUint32(4, isLittleTiff(view));
  return Array.from({ length: view.getUint16(at, isLittleTiff(view)) }, (_, i) => at + 2 + i * 12);
}

/** TIFF: what its tags say, and directories that lead to one another for ever. */
export const TIFF: readonly Mutate[] = [
  awkwardField(
    (view) =>
      tiffEntries(view).flatMap((at): Field[] => [
        { at, wide: 2 },
        { at: at + 2, wide: 2 },
        { at: at + 4, wide: 4 },
        { at: at + 8, wide: 4 },
      ]),
    isLittleTiff,
  ),
  (bytes) => {
    const out = bytes.slice();
    const view = new DataView(out.buffer);
    const entries = tiffEntries(view);
    const next = view.getUint32(4, isLittleTiff(view)) + 2 + entries.length * 12;
    view.setUint32(next, view.getUint32(4, isLittleTiff(view)), isLittleTiff(view));
    return out;
  },
  (bytes, random) => {
    const out = bytes.slice();
    const entries = tiffEntries(new DataView(out.buffer));
    const [from, to] = [random.pick(entries), random.pick(entries)];
    out.copyWithin(to, from, from + 12);
    return out;
  },
];

/** The fields of a PSD's head and layers (Adobe Photoshop File Formats Specification, 2019): lengths, counts, sides. */
function psdFields(view: DataView): Field[] {
  const fields: Field[] = [
    { at: 4, wide: 2 },
    { at: 12, wide: 2 },
    { at: 14, wide: 4 },
    { at: 18, wide: 4 },
    { at: 22, wide: 2 },
    { at: 24, wide: 2 },
  ];
  const skip = (at: number): number => {
    fields.push({ at, wide: 4 });
    return at + 4 + view.getUint32(at);
  };
  const layers = skip(skip(26));
  fields.push({ at: layers, wide: 4 }, { at: layers + 4, wide: 4 }, { at: layers + 8, wide: 2 });
  let at = layers + 10;
  for (let i = 0; i < Math.abs(view.getInt16(layers + 8)); i++) {
    const channels = view.getUint16(at + 16);
    for (const by of [0, 4, 8, 12]) fields.push({ at: at + by, wide: 4 });
    fields.push({ at: at + 16, wide: 2 });
    for (let c = 0; c < channels; c++)
      fields.push({ at: at + 18 + c * 6, wide: 2 }, { at: at + 20 + c * 6, wide: 4 });
    const blend = at + 18 + channels * 6;
    fields.push({ at: blend + 8, wide: 1 }, { at: blend + 9, wide: 1 }, { at: blend + 10, wide: 1 });
    at = skip(blend + 12);
  }
  return fields.filter((field) => field.at + field.wide <= view.byteLength);
}

export const PSD: readonly Mutate[] = [awkwardField(psdFields, false)];

/** Where the chunks of a WAV begin (RIFF, Multimedia Programming Interface 1.0): name, length, data, padded to an even byte. */
function riffStarts(view: DataView): number[] {
  const starts: number[] = [];
  for (let at = 12; at + 8 <= view.byteLength; ) {
    starts.push(at);
    const length = view.getUint32(at + 4, true);
    at += 8 + length + (length & 1);
  }
  return starts;
}

const riffChunks = (bytes: Uint8Array): Uint8Array[] =>
  riffStarts(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)).map((at, i, starts) =>
    bytes.slice(at, starts[i + 1] ?? bytes.length),
  );

function riffOf(chunks: readonly Uint8Array[]): Uint8Array {
  const body = joined([Buffer.from('WAVE', 'latin1'), ...chunks]);
  const head = Buffer.from('RIFF\0\0\0\0', 'latin1');
  head.writeUInt32LE(body.length, 4);
  return joined([head, body]);
}

/** WAV: what its format chunk says of its samples, lengths of chunks, chunks in another order. */
export const WAV: readonly Mutate[] = [
  awkwardField(
    (view) => [
      { at: 4, wide: 4 },
      ...riffStarts(view).map((at): Field => ({ at: at + 4, wide: 4 })),
      ...([20, 22, 32, 34] as const).map((at): Field => ({ at, wide: 2 })),
      { at: 24, wide: 4 },
      { at: 28, wide: 4 },
    ],
    true,
  ),
  otherOrder(riffChunks, riffOf),
];
