import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import { jettyLayers } from './painting.ts';
import {
  artFile,
  artRow,
  bringIn,
  fillNumber,
  land,
  makeShot,
  renderedFrame,
  saved,
  worstDifference,
} from './steps.ts';

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
  await expect(artRow(page, 'Shed')).toBeVisible();
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
  await expect(page.getByText('3 planes', { exact: true })).toBeVisible();
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
  await expect(page.getByText('cut · 94 × 92 px')).toBeVisible();
  await saved(page);
});

const shareOff = (p: Uint8Array, q: Uint8Array): number => {
  let off = 0;
  for (let i = 0; i < p.length; i += 3)
    if ([0, 1, 2].some((c) => Math.abs((p[i + c] as number) - (q[i + c] as number)) > 3)) off += 1;
  return off / (p.length / 3);
};

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
