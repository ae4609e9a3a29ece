import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { readOpenRaster } from '@keen-ridge/core/art/openraster';
import { surveyCountsSchema } from '@keen-ridge/core/contract';
import { USUAL_LIMITS } from '@keen-ridge/core/survey';
import PsdReader, { type Layer as PsdLayer } from '@webtoon/psd';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readShot } from '../db/shots.ts';
import { solidPng } from '../testing/art.ts';
import { callsOf } from '../testing/calls.ts';
import { changeScene, slidingPicture, TWELVE } from '../testing/handoffs.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

let app: TestApp;
let shotId: string;
const { call } = callsOf(() => app.url);
/** Painted 120 × 70 px for a frame of 96 × 64: 12 px are spare at the east, and the pan of 22 px shows 10 px beyond. */
beforeAll(async () => {
  app = await startTestApp({ renders: false });
  shotId = await slidingPicture(app, TWELVE, await solidPng(120, 70, { r: 200, g: 40, b: 40 }));
});
afterAll(() => app.close());

const counts = async () =>
  surveyCountsSchema.parse((await call('GET', `/api/shots/${shotId}/survey/counts`)).json);
const guides = async (query: string) => {
  const response = await fetch(`${app.url}/api/shots/${shotId}/survey/guides?${query}`);
  const bytes = new Uint8Array(await response.arrayBuffer());
  return { status: response.status, said: response.headers.get('content-disposition') ?? '', bytes };
};
const NAME = /filename="?bar_guide_130x70\+0\+0_[0-9a-f]{6}\.(png|ora|psd)/;
const raw = async (png: Uint8Array) => sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });

describe('the wall', () => {
  it('is told what is open in a shot by the limits of its production', async () => {
    // The east side, the empty frame behind it, and 2 px a frame where 96 px in 7 s are 0.57.
    expect(await counts()).toMatchObject({ open: 3, leftSo: 0 });
    const { productionId } = await readShot(app.db, shotId, 'artist');
    const path = `/api/productions/${productionId}/survey-limits`;
    expect((await call('GET', path)).json).toEqual(USUAL_LIMITS);
    expect((await call('PUT', path, { ...USUAL_LIMITS, gapPx: 11 })).status).toBe(204);
    expect(await counts()).toMatchObject({ open: 2 });
    expect((await call('PUT', path, { ...USUAL_LIMITS, gapPx: -1 })).status).toBe(400);
    expect((await call('GET', path)).json).toEqual({ ...USUAL_LIMITS, gapPx: 11 });
    await call('PUT', path, USUAL_LIMITS);
  });
});

describe('reports', () => {
  const pdf = async (what: string) => {
    const response = await fetch(`${app.url}/api/shots/${shotId}/survey/${what}.pdf`);
    expect(response.headers.get('content-disposition')).toContain(`Bar_1_${what}.pdf`);
    const path = join(app.folder, `${what}.pdf`);
    writeFileSync(path, new Uint8Array(await response.arrayBuffer()));
    // Debian's poppler: another reader of the standard (ISO 32000).
    const text = spawnSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' });
    expect(text.stderr).toBe('');
    const page = spawnSync('pdftoppm', ['-r', '72', '-png', '-singlefile', path, join(app.folder, what)]);
    expect(page.status).toBe(0);
    return { text: text.stdout, page: await raw(readFileSync(join(app.folder, `${what}.png`))) };
  };

  it('say what would go wrong, with the picture of the worst frame and the fault hatched in it', async () => {
    const { text, page } = await pdf('report');
    expect(text).toMatch(/bar runs out on the east/);
    expect(text).toMatch(/10 px of the frame show what is behind it/);
    expect(text).toMatch(/Nothing is there/);
    // A4 is 595.28 × 841.89 points, at 72 px an inch; somewhere the paint's own red.
    expect([page.info.width, page.info.height]).toEqual([596, 842]);
    let reds = 0;
    for (let i = 0; i < page.data.length; i += 4)
      if (Math.abs(page.data[i]! - 200) < 12 && page.data[i + 1]! < 60) reds += 1;
    expect(reds).toBeGreaterThan(2000);
  });

  it('list what is to be painted', async () => {
    const { text, page } = await pdf('paint-list');
    expect(text).toMatch(/bar +120 × 70 px +130 × 70 px +\d+ spare +add 10 +3 spare +3 spare/);
    expect([page.info.width, page.info.height]).toEqual([842, 596]);
  });
});

describe('guides', () => {
  it('are a picture of the grown canvas: the paint dimmed, what is missing hatched', async () => {
    const { said, bytes } = await guides('format=png&planes=bar');
    expect(said).toMatch(NAME);
    const { data, info } = await raw(bytes);
    expect([info.width, info.height]).toEqual([130, 70]);
    const at = (x: number, y: number) => [...data.subarray((y * 130 + x) * 4, (y * 130 + x) * 4 + 4)];
    // The middle of the paint, seen: itself at three fifths of its strength.
    expect(at(60, 35)).toEqual([200, 40, 40, 153]);
    // Beyond it, hatched in white and red, nowhere clear.
    const beyond = Array.from({ length: 60 }, (_, i) => at(126, 5 + i));
    expect(beyond.every(([, , , a]) => a! > 0)).toBe(true);
    // Above the frame: never seen, darkened.
    expect(at(60, 0)[0]).toBeLessThan(150);
  });

  it('are a layered document with the paint itself px for px, in OpenRaster and, as a second reader has it, PSD', async () => {
    const paint = await raw(await solidPng(120, 70, { r: 200, g: 40, b: 40 }));
    const asPainted = (data: Uint8Array) => {
      for (const y of [0, 69])
        expect(Buffer.from(data.subarray(y * 130 * 4, (y * 130 + 120) * 4))).toEqual(
          paint.data.subarray(0, 120 * 4),
        );
      expect([...data.subarray(125 * 4, 126 * 4)]).toEqual([0, 0, 0, 0]);
    };
    const ora = await guides('format=openraster&planes=bar');
    expect(ora.said).toMatch(NAME);
    const document = readOpenRaster(ora.bytes);
    expect(JSON.stringify(document)).toContain('Guide: missing');
    asPainted((await raw(unzipSync(ora.bytes)['data/03.png']!)).data);
    const psd = PsdReader.parse((await guides('format=psd&planes=bar')).bytes.slice().buffer as ArrayBuffer);
    const layers: PsdLayer[] = [];
    psd.layers.forEach((layer) => {
      layers.push(layer);
    });
    // On top first.
    expect(layers.map(({ name }) => name)).toEqual([
      'Guide: frames',
      'Guide: missing',
      'Guide: never seen',
      'bar',
    ]);
    expect([psd.width, psd.height]).toEqual([130, 70]);
    const own = layers[3]!;
    const pixels = await own.composite(false, false);
    expect([own.left, own.top, own.width]).toEqual([0, 0, own.width]);
    expect([...pixels.subarray(0, 4)]).toEqual([200, 40, 40, 255]);
  });

  it('of all planes come as one zip, and of planes that are never seen not at all', async () => {
    const all = await guides('format=png');
    expect(all.said).toContain('Bar_1_guides.zip');
    expect(Object.keys(unzipSync(all.bytes))).toHaveLength(1);
    await changeScene(app, shotId, (scene) => ({
      ...scene,
      planes: Object.fromEntries(
        Object.entries(scene.planes).map(([id, plane]) => [id, { ...plane, hidden: true }]),
      ) as typeof scene.planes,
    }));
    expect((await guides('format=png')).status).toBe(404);
    expect((await guides('format=gif')).status).toBe(400);
  });
});
