import { strToU8, type Zippable, zipSync } from 'fflate';

/** A zip of the given parts, mimetype first and stored, as OpenRaster wants it. */
export function openRasterZip(
  parts: Readonly<Record<string, string | Uint8Array>>,
  mimetype = 'image/openraster',
): Uint8Array {
  const zip: Zippable = { mimetype: [strToU8(mimetype), { level: 0 }] };
  for (const [name, part] of Object.entries(parts))
    zip[name] = typeof part === 'string' ? strToU8(part) : part;
  return zipSync(zip);
}

export const stackXml = (inner: string, size = 'w="640" h="360"'): string =>
  `<?xml version="1.0" encoding="UTF-8"?><image version="0.0.5" ${size}><stack>${inner}</stack></image>`;
