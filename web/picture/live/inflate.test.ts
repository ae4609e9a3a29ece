import { deflateSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { inflate } from './inflate.ts';

const painted = Uint8Array.from({ length: 300_000 }, (_, i) => (i * i) % 251);
const packed = new Uint8Array(deflateSync(painted, { level: 1 }));

describe('the browser’s inflating', () => {
  it('gives back what zlib of Node packed', async () => {
    expect(Buffer.compare(Buffer.from(await inflate(packed, painted.length)), Buffer.from(painted))).toBe(0);
  });

  it('gives what there is where more was said', async () => {
    expect(await inflate(packed, painted.length + 1)).toHaveLength(painted.length);
  });

  it.each([
    ['broken', packed.map((byte, i) => (i === packed.length >> 1 ? byte ^ 0x55 : byte)), painted.length],
    ['cut off', packed.subarray(0, packed.length >> 1), painted.length],
    ['of more bytes than were said', packed, painted.length - 1],
  ])('rejects a chunk that is %s', async (_, bytes, length) => {
    await expect(inflate(bytes, length)).rejects.toThrow();
  });
});
