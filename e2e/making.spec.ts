import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import { jettyLayers } from './painting.ts';
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
  renderedFrame,
  saved,
  shareThatDiffers,
  standRow,
  worstDifference,
} from './steps.ts';

/** Cutting and filling take all of a core: beside another test they may take their time. */
const CUT_MS = 60_000;

const flatPainting = async (): Promise<Buffer> => {
  const [bottom, ...others] = (await jettyLayers()).toReversed();
  return sharp(Buffer.from(bottom!.png))
    .composite(others.map(({ png }) => ({ input: Buffer.from(png) })))
    .removeAlpha()
    .png()
    .toBuffer();
};

test('a flat painting is cut in three and filled', async ({ page, app }) => {
  await makeShot(page, app.url, 'Cut');
  await bringIn(page, [artFile('flat.png', await flatPainting())]);
  await land(page);
  await saved(page);
  const before = await renderedFrame(page);
  const surface = page.getByTestId('cut-surface');
  /** A place of the painting, px of it, on the page. */
  const at = async (x: number, y: number): Promise<[number, number]> => {
    const box = await surface.boundingBox();
    const [scale, left, top] = await Promise.all(
      ['data-scale', 'data-left', 'data-top'].map(async (name) => Number(await surface.getAttribute(name))),
    );
    return [(box?.x ?? 0) + (left ?? 0) + x * (scale ?? 1), (box?.y ?? 0) + (top ?? 0) + y * (scale ?? 1)];
  };
  const cut = async (corners: readonly (readonly [number, number])[], name: string) => {
    await artRow(page, 'flat').click();
    await page.getByRole('link', { name: 'Cut …', exact: true }).click();
    await expect(page.getByTestId('cut-picture')).toBeVisible();
    await page.getByRole('radio', { name: 'Corners' }).click();
    for (const [x, y] of corners) await page.mouse.click(...(await at(x, y)));
    await page.keyboard.press('Enter');
    await expect(surface).toHaveAttribute('data-masked', 'true');
    await page.getByLabel('Name of the new plane').fill(name);
  };
  await cut(
    [
      [418, 108],
      [512, 108],
      [512, 262],
      [418, 262],
    ],
    'Shed',
  );
  await page.getByRole('radio', { name: 'What is left' }).click();
  await expect(page.getByRole('progressbar')).toHaveCount(0);
  await page.getByRole('button', { name: 'Make two planes' }).click();
  await expect(artRow(page, 'Shed')).toBeVisible({ timeout: CUT_MS });
  await cut(
    [
      [0, 260],
      [960, 260],
      [960, 400],
      [0, 400],
    ],
    'Boards',
  );
  await page.getByRole('button', { name: 'Make two planes' }).click();
  await expect(page.getByText('3 planes', { exact: true })).toBeVisible({ timeout: CUT_MS });
  await saved(page);
  // Laid on one another they are the painting, but for the softened px of the two borders.
  expect(shareOff(before, await renderedFrame(page))).toBeLessThan(0.006);
  // With the pieces out of the way nothing is missing: no hole, and no shed.
  for (const name of ['Hide Shed', 'Hide Boards']) await page.getByRole('button', { name }).click();
  await saved(page);
  const left = await renderedFrame(page);
  expect(
    left.filter((_, i) => i % 3 === 0 && left[i] === 0 && left[i + 1] === 0 && left[i + 2] === 0).length,
  ).toBe(0);
  expect(shareOff(before, left)).toBeGreaterThan(0.2);
  // The cut can be taken up again: a smaller piece, in its place.
  await page.getByRole('button', { name: 'Show Shed', exact: true }).click();
  await artRow(page, 'Shed').click();
  await page.getByRole('link', { name: 'Change the cut …' }).click();
  await expect(surface).toHaveAttribute('data-masked', 'true');
  await page.getByRole('radio', { name: 'Subtract' }).click();
  await page.getByRole('radio', { name: 'Corners' }).click();
  for (const [x, y] of [
    [400, 200],
    [530, 200],
    [530, 300],
    [400, 300],
  ] as const)
    await page.mouse.click(...(await at(x, y)));
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Change the cut' }).click();
  await expect(page.getByText('cut · 94 × 92 px')).toBeVisible({ timeout: CUT_MS });
  await saved(page);
});

const shareOff = (p: Uint8Array, q: Uint8Array): number => {
  let off = 0;
  for (let i = 0; i < p.length; i += 3)
    if ([0, 1, 2].some((c) => Math.abs((p[i + c] as number) - (q[i + c] as number)) > 3)) off += 1;
  return off / (p.length / 3);
};

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

test('a gradient card is the browser’s own gradient, and covers the move', async ({ page, app }) => {
  await makeShot(page, app.url, 'Card');
  await page.getByRole('button', { name: 'New card' }).click();
  await fillNumber(page.getByLabel('Angle'), '120');
  await page.getByRole('textbox', { name: 'Colour of the stop' }).fill('#304878');
  await page.keyboard.press('Enter');
  await fillNumber(page.getByLabel('Width'), '320');
  await fillNumber(page.getByLabel('Height'), '180');
  await saved(page);
  const ours = await renderedFrame(page);
  // Away from the program, whose policy would take no style that stands in a page.
  await page.goto('about:blank');
  await page.setContent(
    '<body style="margin:0"><div style="width:320px;height:180px;background:linear-gradient(120deg in oklab,#304878 0%,#d9a784 100%)"></div></body>',
  );
  const picture = await page.screenshot({ clip: { x: 0, y: 0, width: 320, height: 180 } });
  const theirs = new Uint8Array(await sharp(picture).removeAlpha().raw().toBuffer());
  // Ours is dithered by up to one level; the browser rounds.
  expect(worstDifference(ours, theirs)).toBeLessThanOrEqual(2);
});

test('shapes are drawn, bent, filled and copied, and stay', async ({ page, app }) => {
  await makeShot(page, app.url, 'Shapes');
  await page.getByRole('button', { name: 'New shapes' }).click();
  const surface = page.getByTestId('shapes-surface');
  const at = async (x: number, y: number): Promise<[number, number]> => {
    const box = await surface.boundingBox();
    const [scale, left, top] = await Promise.all(
      ['data-scale', 'data-left', 'data-top'].map(async (name) => Number(await surface.getAttribute(name))),
    );
    return [(box?.x ?? 0) + (left ?? 0) + x * (scale ?? 1), (box?.y ?? 0) + (top ?? 0) + y * (scale ?? 1)];
  };
  // The plane is 640 × 270, its middle on the frame's: the frame's corner lies at (160, 45) of it.
  const corners = await page.getByTestId('frame-on-plane').getAttribute('points');
  const room = await surface.boundingBox();
  const [left, top] = await at(160, 45);
  expect(corners?.split(' ')[0]?.split(',').map(Number)).toEqual([
    expect.closeTo(left - (room?.x ?? 0), 1),
    expect.closeTo(top - (room?.y ?? 0), 1),
  ]);
  await page.getByRole('radio', { name: 'Rectangle' }).click();
  await page.mouse.move(...(await at(200, 85)));
  await page.mouse.down();
  await page.mouse.move(...(await at(300, 145)), { steps: 3 });
  await page.mouse.up();
  await page.getByRole('textbox', { name: 'Colour' }).fill('#c04020');
  await page.keyboard.press('Enter');
  await saved(page);
  const pixel = async (x: number, y: number) => [
    ...(await renderedFrame(page)).subarray((y * 320 + x) * 3, (y * 320 + x) * 3 + 3),
  ];
  expect(await pixel(90, 70)).toEqual([0xc0, 0x40, 0x20]);
  expect(await pixel(30, 70)).toEqual([0, 0, 0]);
  // A node dragged out, a handle made, a node added on an edge.
  await page.mouse.move(...(await at(200, 85)));
  await page.mouse.down();
  await page.mouse.move(...(await at(180, 60)), { steps: 3 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Round node' }).click();
  await page.mouse.dblclick(...(await at(300, 115)));
  await expect(page.getByRole('button', { name: 'Delete node' })).toBeVisible();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await page.getByRole('button', { name: 'Flip E–W' }).click();
  await page.getByRole('radio', { name: 'Linear' }).click();
  await page.getByRole('link', { name: 'Done' }).click();
  await expect(page.getByText('2 shapes · 640 × 270 px')).toBeVisible();
  await saved(page);
  const drawn = await renderedFrame(page);
  await page.reload();
  await expect(artRow(page, 'Shapes')).toBeVisible();
  expect(worstDifference(drawn, await renderedFrame(page))).toBe(0);
  await page.keyboard.press('Control+z');
  await saved(page);
  expect(worstDifference(drawn, await renderedFrame(page))).toBeGreaterThan(5);
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
