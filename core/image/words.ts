/**
 * RGBA bytes as one 32-bit word a pixel, alpha in the highest byte (little endian, as all that WebAssembly runs on is).
 * Signed, for those are what the engine adds fastest. A view where the bytes are aligned, else a copy: use it to read, or to write into arrays that were made here.
 */
export function wordsOf(data: Uint8Array | Uint8ClampedArray): Int32Array {
  return data.byteOffset % 4 === 0
    ? new Int32Array(data.buffer, data.byteOffset, data.byteLength / 4)
    : new Int32Array(data.slice().buffer);
}
