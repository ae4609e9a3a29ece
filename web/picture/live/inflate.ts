import type { Inflate } from '@keen-ridge/core/kernel/memory';

/** By the browser's own zlib, two to three times as fast as a script's. */
export const inflate: Inflate = async (packed, bytes) => {
  const stream = new DecompressionStream('deflate');
  const writer = stream.writable.getWriter();
  const out = new Uint8Array(bytes);
  // The bytes of a chunk are never shared memory: they came over the network.
  const fed = writer.write(packed as Uint8Array<ArrayBuffer>).then(() => writer.close());
  const [, read] = await Promise.all([fed, readInto(out, stream.readable.getReader())]);
  return out.subarray(0, read);
};

async function readInto(out: Uint8Array, reader: ReadableStreamDefaultReader<Uint8Array>): Promise<number> {
  for (let at = 0; ; ) {
    const { done, value } = await reader.read();
    if (done) return at;
    if (at + value.length > out.length) {
      // Whoever feeds it would wait for ever.
      await reader.cancel();
      throw new Error(`A chunk has more than ${out.length} bytes`);
    }
    out.set(value, at);
    at += value.length;
  }
}
