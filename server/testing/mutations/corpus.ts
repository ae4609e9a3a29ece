import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
import { zipSync } from 'fflate';
import sharp from 'sharp';
import { openRasterOf, pngOfSamples, solidPng } from '../art.ts';
import { testPsd } from '../paintings.ts';
import { wavOf } from '../sound.ts';
import { GIF, PSD, TIFF, WAV } from './blocks.ts';
import { ANY, type Mutate, PNG, XML, ZIP } from './mutate.ts';

/** Where a file is sent: as art, as a sound, as a package or as a whole production. */
export type SentAs = 'art' | 'sound' | 'package' | 'archive';

export interface Sample {
  readonly name: string;
  readonly as: SentAs;
  readonly bytes: Uint8Array;
  readonly mutates: readonly Mutate[];
}

const TONE_RATE = 8000;
const TONE = Int16Array.from({ length: TONE_RATE }, (_, i) => Math.round(8000 * Math.sin(i / 3)));

const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="60" height="40" viewBox="0 0 60 40"><defs><linearGradient id="g"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#123"/></linearGradient></defs><rect width="60" height="20" fill="url(#g)"/><path d="M0 30 C10 10 20 40 60 20 Z" stroke="#000" stroke-width="2"/></svg>`;

/** One small right file of every format; `packages` are those of a shot and of a production. */
export async function corpus(packages: {
  readonly package: Uint8Array;
  readonly archive: Uint8Array;
}): Promise<Sample[]> {
  const picture = sharp({
    create: { width: 40, height: 30, channels: 4, background: { r: 90, g: 30, b: 10, alpha: 0.5 } },
  });
  const png = await picture.clone().png().toBuffer();
  const frames = await Promise.all(
    [1, 2, 3].map((i) => solidPng(20, 20, { r: i * 60, g: 0, b: 0, alpha: 1 })),
  );
  const gif = await sharp(
    frames.map((frame) => Buffer.from(frame)),
    { join: { animated: true } },
  )
    .gif()
    .toBuffer();
  const deep = pngOfSamples({ width: 24, height: 20, colourType: 6, depth: 16, interlaced: true, seed: 4 });
  const layers = [
    { name: 'Near', png: new Uint8Array(png), x: 3, y: 2 },
    { name: 'Far', png: new Uint8Array(png), x: 0, y: 0 },
  ];
  const art = (name: string, bytes: Uint8Array, ...mutates: (readonly Mutate[])[]): Sample => ({
    name,
    as: 'art',
    bytes: new Uint8Array(bytes),
    mutates: [...ANY, ...mutates.flat()],
  });
  return [
    art('a.png', png, PNG, PNG),
    art('deep.png', deep, PNG),
    art('a.gif', gif, GIF, GIF, GIF),
    art('a.jpg', await picture.clone().flatten().jpeg().toBuffer()),
    art('a.webp', await picture.clone().webp().toBuffer()),
    art('a.tiff', await picture.clone().tiff({ compression: 'lzw' }).toBuffer(), TIFF, TIFF),
    art('a.svg', Buffer.from(SVG), XML, XML),
    art('a.ora', openRasterOf(layers, 50, 40), ZIP, ZIP),
    art(
      'bare.ora',
      openRasterZip({ 'stack.xml': stackXml('<layer src="a.png"/>'), 'a.png': new Uint8Array(png) }),
      ZIP,
    ),
    art('a.psd', testPsd(), PSD, PSD, PSD, PSD),
    art('pictures.zip', zipSync({ 'a_001.png': new Uint8Array(png), 'a_002.png': new Uint8Array(png) }), ZIP),
    { name: 'a.wav', as: 'sound', bytes: wavOf(TONE, TONE_RATE), mutates: [...ANY, ...WAV, ...WAV] },
    { name: 'shot.zip', as: 'package', bytes: packages.package, mutates: [...ANY, ...ZIP, ...ZIP] },
    { name: 'production.zip', as: 'archive', bytes: packages.archive, mutates: [...ANY, ...ZIP, ...ZIP] },
  ];
}
