import crc32 from 'crc-32';
import { fail, ok, type Result } from '../../units/index.ts';
import type { ArtFault } from '../index.ts';

export interface ApngFrame {
  /** The frame's own rectangle as a PNG of its own. */
  readonly png: Uint8Array;
  readonly xPx: number;
  readonly yPx: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly delayMs: number;
  readonly dispose: 'none' | 'background' | 'previous';
  readonly blend: 'source' | 'over';
}

export interface Apng {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly frames: readonly ApngFrame[];
}

interface Chunk {
  readonly name: string;
  readonly data: Uint8Array;
}

const SIGNATURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);
const MOST_FRAMES = 5000;

/** Splits an animated PNG (W3C PNG Specification, Third Edition, section 11.3.6) into its frames. */
export function readApng(bytes: Uint8Array): Result<Apng, ArtFault> {
  const chunks = chunksOf(bytes);
  const header = chunks.find(({ name }) => name === 'IHDR');
  if (!header || header.data.length < 13) return fail({ code: 'damaged', detail: 'its header is missing' });
  const size = new DataView(header.data.buffer, header.data.byteOffset, header.data.byteLength);
  const [widthPx, heightPx] = [size.getUint32(0), size.getUint32(4)];
  const first = chunks.findIndex(({ name }) => name === 'IDAT' || name === 'fcTL');
  const shared = chunks
    .slice(0, Math.max(0, first))
    .filter(({ name }) => !['IHDR', 'acTL', 'fcTL'].includes(name));
  const frames: ApngFrame[] = [];
  let control: DataView | null = null;
  let data: Uint8Array[] = [];
  const close = () => {
    if (control && data.length > 0) frames.push(frameOf(control, header.data, shared, data));
    data = [];
  };
  for (const { name, data: part } of chunks) {
    if (name === 'fcTL') {
      close();
      if (part.length < 26) return fail({ code: 'damaged', detail: 'a frame header is cut short' });
      control = new DataView(part.buffer, part.byteOffset, part.byteLength);
    } else if (name === 'IDAT' && control) data.push(part);
    else if (name === 'fdAT') data.push(part.subarray(4));
  }
  close();
  if (frames.length === 0) return fail({ code: 'damaged', detail: 'it is said to move but has no frames' });
  if (frames.length > MOST_FRAMES)
    return fail({ code: 'too-large', detail: `it has ${frames.length} frames` });
  const outside = frames.some(
    (frame) => frame.xPx + frame.widthPx > widthPx || frame.yPx + frame.heightPx > heightPx,
  );
  if (outside) return fail({ code: 'damaged', detail: 'a frame lies outside its picture' });
  return ok({ widthPx, heightPx, frames });
}

function chunksOf(bytes: Uint8Array): Chunk[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: Chunk[] = [];
  for (let at = 8; at + 12 <= bytes.length; ) {
    const length = view.getUint32(at);
    if (at + 12 + length > bytes.length) break;
    const name = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    chunks.push({ name, data: bytes.subarray(at + 8, at + 8 + length) });
    at += 12 + length;
  }
  return chunks;
}

const DISPOSE = ['none', 'background', 'previous'] as const;

function frameOf(
  control: DataView,
  header: Uint8Array,
  shared: readonly Chunk[],
  data: readonly Uint8Array[],
): ApngFrame {
  const [widthPx, heightPx] = [control.getUint32(4), control.getUint32(8)];
  const own = header.slice();
  new DataView(own.buffer).setUint32(0, widthPx);
  new DataView(own.buffer).setUint32(4, heightPx);
  const denominator = control.getUint16(22) || 100;
  return {
    png: pngOfChunks([
      { name: 'IHDR', data: own },
      ...shared,
      ...data.map((part) => ({ name: 'IDAT', data: part })),
      { name: 'IEND', data: new Uint8Array() },
    ]),
    xPx: control.getUint32(12),
    yPx: control.getUint32(16),
    widthPx,
    heightPx,
    delayMs: (control.getUint16(20) * 1000) / denominator,
    dispose: DISPOSE[control.getUint8(24)] ?? 'none',
    blend: control.getUint8(25) === 1 ? 'over' : 'source',
  };
}

/** A PNG datastream of the chunks, with their checksums. */
export function pngOfChunks(chunks: readonly Chunk[]): Uint8Array {
  const size = chunks.reduce((sum, { data }) => sum + 12 + data.length, SIGNATURE.length);
  const out = new Uint8Array(size);
  const view = new DataView(out.buffer);
  out.set(SIGNATURE);
  let at = SIGNATURE.length;
  for (const { name, data } of chunks) {
    view.setUint32(at, data.length);
    for (let i = 0; i < 4; i++) out[at + 4 + i] = name.charCodeAt(i);
    out.set(data, at + 8);
    view.setUint32(at + 8 + data.length, checksum(out.subarray(at + 4, at + 8 + data.length)));
    at += 12 + data.length;
  }
  return out;
}

/** CRC-32 as PNG uses it (PNG Specification, annex D), unsigned. */
const checksum = (bytes: Uint8Array): number => crc32.buf(bytes) >>> 0;
