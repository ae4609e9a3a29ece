const EXTRA_SAMPLES = 338;
const ASSOCIATED = 1;
const UNASSOCIATED = 2;

/**
 * How a TIFF says that its alpha is held: tag ExtraSamples of the first image (TIFF Revision 6.0, section 18). `null`
 * where it does not say, or where it has no alpha. BigTIFF is not looked into.
 */
export function tiffAlpha(bytes: Uint8Array): 'straight' | 'premultiplied' | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.byteLength < 8) return null;
  const little = view.getUint8(0) === 0x49;
  if (view.getUint16(2, little) !== 42) return null;
  const directory = view.getUint32(4, little);
  if (directory + 2 > view.byteLength) return null;
  const count = view.getUint16(directory, little);
  for (let i = 0; i < count; i++) {
    const at = directory + 2 + 12 * i;
    if (at + 12 > view.byteLength) return null;
    if (view.getUint16(at, little) !== EXTRA_SAMPLES) continue;
    const value = view.getUint16(at + 8, little);
    return value === ASSOCIATED ? 'premultiplied' : value === UNASSOCIATED ? 'straight' : null;
  }
  return null;
}
