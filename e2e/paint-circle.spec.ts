import { readFileSync } from 'node:fs';
import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import {
  artFile,
  bringIn,
  fillNumber,
  goToStep,
  land,
  makeShot,
  panelTab,
  saved,
  standRow,
} from './steps.ts';

const surveyed = (page: Page) =>
  expect(
    page.getByRole('region', { name: 'What would go wrong' }).getByText(/^\d+ f · [\d.]+ s$/),
  ).toBeVisible();

/** Every px of it tells where on the canvas it is. */
function paintOf(width: number, height: number): Promise<Buffer> {
  const data = Buffer.alloc(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      data.set([x % 256, Math.floor(x / 256) * 64, y, 255], (y * width + x) * 4);
  return sharp(data, { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer();
}

/** What a painter gives back: the guide's document with its paint painted anew, a layer on top, the guide still in it. */
async function paintedOver(guide: Buffer): Promise<Buffer> {
  const parts = unzipSync(guide);
  const size = /w="(\d+)" h="(\d+)"/.exec(Buffer.from(parts['stack.xml']!).toString());
  const [width, height] = [Number(size?.[1]), Number(size?.[2])];
  const lamp = await sharp({ create: { width: 4, height: 4, channels: 4, background: '#ffcc00' } })
    .png()
    .toBuffer();
  const layers = [
    '<layer name="Guide: frames" src="data/00.png" x="0" y="0"/>',
    '<layer name="Guide: missing" src="data/01.png" x="0" y="0"/>',
    '<layer name="Lamp" src="data/lamp.png" x="60" y="90"/>',
    '<layer name="Card" src="data/paint.png" x="0" y="0"/>',
  ];
  return Buffer.from(
    openRasterZip({
      'stack.xml': stackXml(layers.join(''), `w="${width}" h="${height}"`),
      'data/00.png': parts['data/00.png']!,
      'data/01.png': parts['data/01.png']!,
      'data/lamp.png': lamp,
      'data/paint.png': await paintOf(width, height),
    }),
  );
}

test('blocked out, moved, listed, painted on its guide and dropped back: nothing is missing, all in place', async ({
  page,
  app,
}) => {
  await makeShot(page, app.url, 'Circle', 48);
  await page.getByRole('button', { name: 'New card' }).click();
  await fillNumber(page.getByLabel('Width'), '340');
  await fillNumber(page.getByLabel('Height'), '180');
  await goToStep(page, 'Move');
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '40');
  await saved(page);

  // 10 px are spare, and the pan is 40.
  await goToStep(page, 'Survey');
  await surveyed(page);
  await page.getByTestId('finding-edge').getByRole('button').first().click();
  await expect(page.getByRole('button', { name: 'Paint 30 art px more: guide' })).toBeVisible();
  await page.getByRole('radio', { name: 'On the art' }).click();
  await expect(page.getByTestId('on-the-art')).toHaveAttribute('data-ready', 'true');
  await expect(page.getByTestId('frame-on-art')).toHaveCount(2);
  await expect(page.getByText('stands in for paint to come: paint it at 370 × 180 px.')).toBeVisible();

  await page.getByRole('button', { name: 'Paint list …' }).click();
  const row = page.getByRole('row', { name: /^Card/ });
  await expect(row).toContainText('add 30');
  await page.getByRole('radio', { name: 'OpenRaster' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Guide of Card' }).click();
  const guide = await download;
  expect(guide.suggestedFilename()).toMatch(/^Card_guide_370x180\+0\+0_[0-9a-f]{6}\.ora$/);
  const painted = await paintedOver(readFileSync(await guide.path()));
  await page.keyboard.press('Escape');

  await goToStep(page, 'Art');
  await bringIn(page, [artFile(guide.suggestedFilename(), painted)]);
  await expect(page.getByText('Large enough for the move.')).toBeVisible();
  await land(page);
  await saved(page);
  const shot = /shots\/([^/]+)/.exec(page.url())?.[1];
  const still = await page.request.get(`${app.url}/api/shots/${shot}/still?frame=1&format=png`);
  const { data, info } = await sharp(await still.body())
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height]).toEqual([320, 180]);
  const at = (x: number, y: number) => [...data.subarray((y * 320 + x) * 4, (y * 320 + x) * 4 + 4)];
  // The frame begins 10 px within the art, as it did before.
  for (const [x, y] of [
    [0, 0],
    [200, 30],
    [319, 179],
  ] as const)
    expect(at(x, y)).toEqual([(x + 10) % 256, Math.floor((x + 10) / 256) * 64, y, 255]);
  expect(at(52, 92)).toEqual([255, 204, 0, 255]);

  await goToStep(page, 'Survey');
  await surveyed(page);
  await expect(page.getByText('Nothing would go wrong')).toBeVisible();
  await page.getByRole('link', { name: 'Keen Ridge' }).click();
  const tile = page.locator('[data-shot]').filter({ hasText: 'Circle' });
  await expect(tile.getByRole('img', { name: 'Nothing would go wrong' })).toBeVisible();
});

/** A picture that is opaque where `paint` gives a colour. */
function pictureOf(
  width: number,
  height: number,
  paint: (x: number, y: number) => readonly [number, number, number] | null,
): Promise<Buffer> {
  const data = Buffer.alloc(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const colour = paint(x, y);
      if (colour) data.set([...colour, 255], (y * width + x) * 4);
    }
  return sharp(data, { raw: { width, height, channels: 4 } })
    .png()
    .toBuffer();
}

test('what a tree uncovers is filled from what is painted round about', async ({ page, app }) => {
  await makeShot(page, app.url, 'Notch', 48);
  // A hill with a notch 40 px wide behind a tree of 60, which slides off it by 80 px of pan, a third nearer.
  const hill = await pictureOf(560, 180, (x, y) =>
    y >= 100 && !(x >= 260 && x < 300) ? [90, 60 + (x % 7), 40] : null,
  );
  const tree = await pictureOf(560, 180, (x) => (x >= 250 && x < 310 ? [20, 40, 20] : null));
  await bringIn(page, [artFile('tree.png', tree), artFile('hill.png', hill)]);
  await land(page);
  await page.getByRole('button', { name: 'New card' }).click();
  await goToStep(page, 'Stage');
  await standRow(page, 'tree').click();
  await panelTab(page, 'Depth');
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '-80');
  await goToStep(page, 'Move');
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '80');
  await saved(page);
  await goToStep(page, 'Survey');
  await surveyed(page);
  await page.getByTestId('finding-reveal').getByRole('button').first().click();
  await page.getByRole('button', { name: 'Fill from around' }).click();
  await expect(page.getByTestId('finding-reveal')).toHaveCount(0);
  await surveyed(page);
  await expect(page.getByTestId('finding-reveal')).toHaveCount(0);
  await saved(page);
  // One undo takes the paint back.
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('finding-reveal')).toHaveCount(1);
});
