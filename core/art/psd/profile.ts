/** Image resource of the ICC profile in a PSD (public file format description, image resources section). */
const ICC_PROFILE = 1039;

/** The embedded ICC profile, or null. The resources lie after the header of 26 bytes and the colour mode data. */
export function readPsdProfile(bytes: Uint8Array): Uint8Array | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.byteLength < 34) return null;
  let at = 30 + view.getUint32(26);
  if (at + 4 > view.byteLength) return null;
  const end = Math.min(view.byteLength, at + 4 + view.getUint32(at));
  at += 4;
  while (at + 12 <= end) {
    const id = view.getUint16(at + 4);
    const nameLength = view.getUint8(at + 6);
    const sizeAt = at + 6 + ((nameLength + 2) & ~1);
    if (sizeAt + 4 > end) return null;
    const size = view.getUint32(sizeAt);
    if (sizeAt + 4 + size > end) return null;
    if (id === ICC_PROFILE) return bytes.subarray(sizeAt + 4, sizeAt + 4 + size);
    at = sizeAt + 4 + size + (size & 1);
  }
  return null;
}
