import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
import { seededRandom } from '@keen-ridge/core/units';
import sharp from 'sharp';

/** 4K wide, with the room above and below that a working painting has. */
export const DOCUMENT = { widthPx: 3840, heightPx: 2160 } as const;

/** One painted layer: brushwork over a part of the painting, soft at its borders, as PNG. */
async function paintedLayer(index: number): Promise<Uint8Array> {
  const random = seededRandom(index + 1);
  const { widthPx, heightPx } = DOCUMENT;
  const strokes = Array.from({ length: 420 }, () => {
    const [x, y] = [random() * widthPx, heightPx * (0.15 + 0.7 * random())];
    const tone = `hsl(${Math.floor(200 + 60 * random())} ${Math.floor(20 + 30 * random())}% ${Math.floor(20 + 50 * random())}%)`;
    return `<path d="M${x} ${y} q${60 + random() * 200} ${-40 + random() * 80} ${200 + random() * 300} ${random() * 30}" stroke="${tone}" stroke-width="${6 + random() * 70}" stroke-opacity="${0.5 + random() * 0.5}" fill="none" stroke-linecap="round"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="${heightPx}">${strokes.join('')}</svg>`;
  return new Uint8Array(await sharp(Buffer.from(svg)).png({ compressionLevel: 6 }).toBuffer());
}

/** An OpenRaster document of `count` painted layers of 4K, and the PNG of each. */
export async function bigDocument(count: number): Promise<{ file: Uint8Array; layers: Uint8Array[] }> {
  const layers: Uint8Array[] = [];
  for (let i = 0; i < count; i++) layers.push(await paintedLayer(i));
  const tags = layers.map((_, i) => `<layer name="Layer ${i}" src="data/${i}.png" x="0" y="0"/>`);
  const parts = Object.fromEntries(layers.map((png, i) => [`data/${i}.png`, png]));
  const size = `w="${DOCUMENT.widthPx}" h="${DOCUMENT.heightPx}"`;
  return { file: openRasterZip({ 'stack.xml': stackXml(tags.join(''), size), ...parts }), layers };
}
