import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { afterAll, describe, expect, it } from 'vitest';
import { pngOfFrame } from './encode-frame.ts';
import { depthNumbers, exrOfPass, motionNumbers } from './exr.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-exr-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const [WIDTH, HEIGHT, FAR] = [6, 4, 3840];
/** Another value a px, the first of them black. */
const valueAt = (i: number) => i * 2800;

async function depthPng(): Promise<Uint8Array> {
  const data = new Uint16Array(4 * WIDTH * HEIGHT);
  for (let i = 0; i < WIDTH * HEIGHT; i++) data.set([valueAt(i), valueAt(i), valueAt(i), 65_535], 4 * i);
  return pngOfFrame({ widthPx: WIDTH, heightPx: HEIGHT, format: 'straight16', data }, true);
}

describe('depth as OpenEXR', () => {
  it.each([
    ['float', 1e-3],
    // Eleven bits of a half are one part in 2048.
    ['half', FAR / 2048],
  ] as const)(
    'has the distance of every px where it is, as ffmpeg and three read it (%s)',
    async (bits, within) => {
      const exr = await exrOfPass(await depthPng(), depthNumbers(FAR), bits);
      const path = join(folder, `${bits}.exr`);
      writeFileSync(path, exr);
      const raw = join(folder, `${bits}.raw`);
      const args = ['-v', 'error', '-y', '-i', path, '-f', 'rawvideo', '-pix_fmt', 'gbrapf32le', raw];
      expect(spawnSync('ffmpeg', args, { encoding: 'utf8' }).stderr).toBe('');
      // Planes of green, blue and red, from the upper left.
      const bytes = readFileSync(raw);
      const green = new Float32Array(bytes.buffer, bytes.byteOffset, WIDTH * HEIGHT);
      const loader = new EXRLoader();
      loader.setDataType(FloatType);
      const read = loader.parse(exr.slice().buffer);
      for (let i = 0; i < WIDTH * HEIGHT; i++) {
        const distance = (valueAt(i) / 65_535) * FAR;
        expect(Math.abs(green[i]! - distance)).toBeLessThanOrEqual(within);
        const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
        const there = 4 * ((HEIGHT - 1 - y) * WIDTH + x);
        expect(Math.abs(Number(read.data![there]) - distance)).toBeLessThanOrEqual(within);
      }
    },
  );
});

describe('motion as OpenEXR', () => {
  it('is px to the right and down, and one where the plane is', async () => {
    const data = Uint16Array.from([32_768 + 64, 32_768 - 160, 65_535, 65_535, 32_768, 32_768, 0, 65_535]);
    const png = await pngOfFrame({ widthPx: 2, heightPx: 1, format: 'straight16', data }, true);
    const exr = await exrOfPass(png, motionNumbers, 'float');
    const loader = new EXRLoader().setDataType(FloatType);
    const read = loader.parse(exr.slice().buffer as ArrayBuffer);
    expect([...(read.data as Float32Array)]).toEqual([1, -2.5, 1, 1, 0, 0, 0, 1]);
  });
});
