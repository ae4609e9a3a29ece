import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
import sharp from 'sharp';

const WIDTH = 960;
const HEIGHT = 400;

const layerPng = async (svg: string): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp(
      Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}">${svg}</svg>`),
    )
      .png()
      .toBuffer(),
  );

const LAYERS: readonly (readonly [string, string])[] = [
  [
    'Near rail',
    '<rect y="330" width="960" height="18" fill="#402a1c"/><g fill="#2a1a10"><rect x="80" y="300" width="16" height="100"/><rect x="400" y="300" width="16" height="100"/><rect x="720" y="300" width="16" height="100"/></g>',
  ],
  [
    'Jetty',
    '<rect y="260" width="960" height="140" fill="#7a6a58"/><g fill="#8c7a66"><rect x="60" y="270" width="90" height="20"/><rect x="300" y="290" width="120" height="20"/><rect x="620" y="275" width="100" height="20"/></g>',
  ],
  [
    'Sheds',
    '<g fill="#51597c"><rect x="120" y="140" width="120" height="130"/><rect x="420" y="110" width="90" height="160"/><rect x="660" y="150" width="140" height="120"/></g><rect x="450" y="150" width="24" height="30" fill="#ffd48a"/>',
  ],
  [
    'Evening sky',
    '<defs><linearGradient id="s" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#22305c"/><stop offset="1" stop-color="#e8b088"/></linearGradient></defs><rect width="960" height="400" fill="url(#s)"/>',
  ],
];

export interface JettyLayer {
  readonly name: string;
  readonly png: Uint8Array;
}

/** The four layers, on top first, all of the painting's size. */
export const jettyLayers = (): Promise<JettyLayer[]> =>
  Promise.all(LAYERS.map(async ([name, svg]) => ({ name, png: await layerPng(svg) })));

/** A four-layer painting, three frames of 320 × 180 wide, as an artist would bring it. */
export async function jettyPainting(): Promise<Buffer> {
  const layers = await jettyLayers();
  const parts = Object.fromEntries(layers.map(({ png }, i) => [`data/${i}.png`, png]));
  const tags = layers.map(({ name }, i) => `<layer name="${name}" src="data/${i}.png" x="0" y="0"/>`);
  return Buffer.from(
    openRasterZip({ 'stack.xml': stackXml(tags.join(''), `w="${WIDTH}" h="${HEIGHT}"`), ...parts }),
  );
}

export const JETTY_NAMES = LAYERS.map(([name]) => name);
