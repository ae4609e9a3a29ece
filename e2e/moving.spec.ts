import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import {
  artFile,
  artRow,
  bringIn,
  choose,
  currentFrame,
  fillNumber,
  goToStep,
  land,
  makeShot,
  picturePixels,
  saved,
  shareThatDiffers,
  standRow,
  worstDifference,
} from './steps.ts';

/** A walker of four drawings, 60 × 80, each with its step marked by where its foot stands. */
const walker = async (): Promise<Buffer> => {
  const frames = [0, 12, 24, 36].map((foot) =>
    sharp(
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="60" height="80"><rect x="20" y="10" width="16" height="50" fill="#f0e0c0"/><rect x="${foot}" y="60" width="14" height="18" fill="#ff2020"/></svg>`,
      ),
    )
      .ensureAlpha()
      .raw()
      .toBuffer(),
  );
  const raw = { width: 60, height: 320, channels: 4 as const, pageHeight: 80 };
  return sharp(Buffer.concat(await Promise.all(frames)), { raw })
    .gif({ delay: [125, 125, 125, 125] })
    .toBuffer();
};

test('a GIF walks on the datum, on threes, at its own rate, and back again', async ({ page, app }) => {
  await makeShot(page, app.url, 'Walker');
  await bringIn(page, [artFile('walker.gif', await walker())]);
  await land(page);
  await artRow(page, 'walker').click();
  await expect(page.getByRole('list', { name: 'Exposures' }).getByRole('listitem')).toHaveCount(4);
  await expect(page.getByLabel('Hold of exposure 1')).toHaveValue('3');
  const first = await picturePixels(page, 1);
  const step = async (frame: number) => {
    await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('Home');
    for (let i = 1; i < frame; i++) await page.keyboard.press('ArrowRight');
    return picturePixels(page, frame);
  };
  expect(worstDifference(first, await step(3))).toBe(0);
  const second = await step(4);
  expect(shareThatDiffers(first, second, 60)).toBeGreaterThan(0.002);
  expect(worstDifference(first, await step(13))).toBe(0);
  await fillNumber(page.getByLabel('Hold of exposure 1'), '1');
  expect(worstDifference(second, await step(2))).toBe(0);
  await choose(page, 'Cycle', 'There and back');
  await page.getByLabel('Own rate').fill('12');
  await page.keyboard.press('Enter');
  // At 12 a second on a shot of 24, an exposure of one frame holds for two.
  expect(worstDifference(first, await step(2))).toBe(0);
  expect(worstDifference(second, await step(3))).toBe(0);
  await page.getByRole('button', { name: 'Onion' }).click();
  expect(worstDifference(second, await step(3))).toBeGreaterThan(10);
  await page.getByRole('button', { name: 'Onion' }).click();
  await saved(page);
  await goToStep(page, 'Stage');
  await expect(standRow(page, 'walker')).toHaveAccessibleName('walker, depth 0 px');
  await expect(currentFrame(page)).toHaveText('3');
});

test('an animated PNG is drawn as the browser itself draws it', async ({ page, app }) => {
  await makeShot(page, app.url, 'Animated PNG');
  const bytes = Buffer.from(await handMadeApng());
  const shot = page.url();
  const answer = await page.request.post(`${app.url}/api/art?name=a.png`, {
    data: bytes,
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  const { paintings } = await answer.json();
  const ids: string[] = paintings[0].nodes[0].frames.map((frame: { art: { id: string } }) => frame.art.id);
  expect(ids).toHaveLength(4);
  await page.goto(shot);
  const differences = await page.evaluate(
    async ({ base64, arts }) => {
      const data = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
      const options = {
        data,
        type: 'image/png',
        premultiplyAlpha: 'none',
        colorSpaceConversion: 'none',
      } as const;
      const decoder = new ImageDecoder(options);
      await decoder.completed;
      const worst: number[] = [];
      for (const [frameIndex, id] of arts.entries()) {
        const { image } = await decoder.decode({ frameIndex });
        const theirs = new Uint8Array(image.codedWidth * image.codedHeight * 4);
        await image.copyTo(theirs, { format: 'RGBA' });
        const ours = new Uint8Array(await (await fetch(`/api/art/${id}/pixels`)).arrayBuffer());
        let most = 0;
        for (let i = 0; i < ours.length; i += 4) {
          const alpha = (ours[i + 3] as number) / 255;
          most = Math.max(most, Math.abs((ours[i + 3] as number) - (theirs[i + 3] as number)));
          for (let c = 0; c < 3; c++)
            most = Math.max(most, Math.abs((ours[i + c] as number) - (theirs[i + c] as number)) * alpha);
        }
        worst.push(most);
      }
      return worst;
    },
    { base64: bytes.toString('base64'), arts: ids },
  );
  expect(Math.max(...differences)).toBeLessThanOrEqual(1);
});

/** Four frames of 12 × 10 with every disposal and both blends, soft alpha in them. */
async function handMadeApng(): Promise<Uint8Array> {
  const { deflateSync } = await import('node:zlib');
  const { pngOfChunks } = await import('@keen-ridge/core/art/apng');
  const bytes = (size: number, write: (view: DataView) => void) => {
    const out = new Uint8Array(size);
    write(new DataView(out.buffer));
    return out;
  };
  const pixels = (width: number, height: number, seed: number) => {
    const lines = new Uint8Array(height * (width * 4 + 1));
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width * 4; x++)
        lines[y * (width * 4 + 1) + 1 + x] = (x * 37 + y * 91 + seed * 53) % 256;
    return new Uint8Array(deflateSync(lines));
  };
  const frames = [
    { x: 0, y: 0, width: 12, height: 10, dispose: 0, blend: 0 },
    { x: 2, y: 1, width: 7, height: 6, dispose: 1, blend: 1 },
    { x: 4, y: 3, width: 8, height: 7, dispose: 2, blend: 1 },
    { x: 1, y: 0, width: 5, height: 9, dispose: 0, blend: 0 },
  ];
  let sequence = 0;
  const chunks = frames.flatMap(({ x, y, width, height, dispose, blend }, i) => {
    const control = bytes(26, (view) => {
      for (const [at, value] of [
        [0, sequence++],
        [4, width],
        [8, height],
        [12, x],
        [16, y],
      ] as const)
        view.setUint32(at, value);
      view.setUint16(20, 1);
      view.setUint16(22, 10);
      view.setUint8(24, dispose);
      view.setUint8(25, blend);
    });
    const data = pixels(width, height, i);
    const number = i === 0 ? new Uint8Array() : bytes(4, (view) => view.setUint32(0, sequence++));
    return [
      { name: 'fcTL', data: control },
      { name: i === 0 ? 'IDAT' : 'fdAT', data: new Uint8Array([...number, ...data]) },
    ];
  });
  const header = bytes(13, (view) => {
    view.setUint32(0, 12);
    view.setUint32(4, 10);
    view.setUint8(8, 8);
    view.setUint8(9, 6);
  });
  const moves = bytes(8, (view) => view.setUint32(0, frames.length));
  return pngOfChunks([
    { name: 'IHDR', data: header },
    { name: 'acTL', data: moves },
    ...chunks,
    { name: 'IEND', data: new Uint8Array() },
  ]);
}

test('a film comes in as a moving plane, from its in to its out, frame by frame', async ({
  page,
  app,
}, info) => {
  const path = info.outputPath('drift.mkv');
  // Frame n, counted from 0, is grey of 20 n: what is seen says which frame it is.
  const grey = 'color=black:size=320x180:rate=24:duration=0.5,format=rgba,geq=r=20*N:g=20*N:b=20*N:a=255';
  const made = spawnSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    grey,
    '-c:v',
    'ffv1',
    '-pix_fmt',
    'bgra',
    path,
  ]);
  expect(made.stderr.toString()).toBe('');
  await makeShot(page, app.url, 'Drift');
  await bringIn(page, [artFile('drift.mkv', readFileSync(path))]);
  await expect(page.getByText('12 frames of 12, 24 a second')).toBeVisible();
  await fillNumber(page.getByLabel('In', { exact: true }), '4');
  await fillNumber(page.getByLabel('Out', { exact: true }), '9');
  await expect(page.getByText('6 frames of 12, 24 a second')).toBeVisible();
  await land(page);
  const middle = async (frame: number) => {
    const pixels = await picturePixels(page, frame);
    const { width, height } = await page
      .getByTestId('picture')
      .evaluate((canvas: HTMLCanvasElement) => ({ width: canvas.width, height: canvas.height }));
    return pixels[(Math.floor(height / 2) * width + Math.floor(width / 2)) * 4];
  };
  expect(await middle(1)).toBe(60);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('ArrowRight');
  expect(await middle(2)).toBe(80);
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  // Six frames, round and round: the seventh is the first again.
  expect(await middle(7)).toBe(60);
  await artRow(page, 'drift').click();
  await expect(page.getByRole('list', { name: 'Exposures' }).getByRole('listitem')).toHaveCount(6);
});
