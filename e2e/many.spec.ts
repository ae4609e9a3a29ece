import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
import type { Locator } from '@playwright/test';
import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import {
  artFile,
  artRow,
  bringIn,
  depthOf,
  fillNumber,
  goToStep,
  land,
  makeShot,
  picturePixels,
  saved,
  standRow,
} from './steps.ts';

const COUNT = 500;

/** A painting of so many small layers, each of a paint of its own. */
async function manyLayers(): Promise<Buffer> {
  const parts: Record<string, Uint8Array> = {};
  const tags: string[] = [];
  for (let i = 0; i < COUNT; i++) {
    const background = { r: (i * 37) % 256, g: (i * 91) % 256, b: i % 256, alpha: 1 };
    const png = await sharp({ create: { width: 24, height: 16, channels: 4, background } })
      .png()
      .toBuffer();
    parts[`data/${i}.png`] = new Uint8Array(png);
    tags.push(`<layer name="Card ${i + 1}" src="data/${i}.png" x="${(i * 13) % 296}" y="${(i * 7) % 164}"/>`);
  }
  return Buffer.from(openRasterZip({ 'stack.xml': stackXml(tags.join(''), 'w="320" h="180"'), ...parts }));
}

/** Of a long list only what is seen, and some more, is in the page. */
async function onlySome(list: Locator): Promise<void> {
  const rows = await list.getByRole('listitem').count();
  expect(rows).toBeGreaterThan(5);
  expect(rows).toBeLessThan(150);
}

/** Scrolls a list, a screen at a time, until a row of it is in the page. */
async function scrolledTo(list: Locator, row: Locator): Promise<void> {
  await list.evaluate((element) => {
    const room = element.closest('.overflow-auto, .overflow-y-auto');
    if (room) room.scrollTop = 0;
  });
  await expect(async () => {
    if ((await row.count()) > 0) return;
    await list.evaluate((element) => element.closest('.overflow-auto, .overflow-y-auto')?.scrollBy(0, 600));
    expect(await row.count()).toBe(1);
  }).toPass({ intervals: [100] });
}

test('five hundred planes come in, are chosen together, moved in depth and taken back', async ({
  page,
  app,
}) => {
  test.setTimeout(240_000);
  await makeShot(page, app.url, 'Many');
  await bringIn(page, [artFile('many.ora', await manyLayers())]);
  const layers = page.getByRole('list', { name: 'Layers' });
  await expect(layers.getByRole('listitem').first()).toHaveAttribute('aria-setsize', String(COUNT));
  await onlySome(layers);
  await land(page);
  await expect(page.getByText(`${COUNT} planes`, { exact: true })).toBeVisible();
  await artRow(page, 'Card 3').click();
  await artRow(page, 'Card 12').click({ modifiers: ['Shift'] });
  await expect(page.getByRole('heading', { name: '10 planes' })).toBeVisible();
  const stack = page.getByRole('list', { name: 'Planes, on top first' });
  await onlySome(stack);
  await artRow(page, 'Card 12').press('ArrowDown');
  await expect(artRow(page, 'Card 13')).toBeFocused();
  await scrolledTo(stack, artRow(page, 'Card 400'));
  await artRow(page, 'Card 400').click();
  await page.keyboard.press('ArrowDown');
  await expect(artRow(page, 'Card 401')).toBeFocused();
  await goToStep(page, 'Stage');
  await picturePixels(page, 1);
  const stand = page.getByRole('list', { name: 'Planes, near to far' });
  await onlySome(stand);
  await scrolledTo(stand, standRow(page, 'Card 3'));
  await standRow(page, 'Card 3').press('Control+a');
  await expect(page.getByRole('heading', { name: `${COUNT} planes` })).toBeVisible();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '320');
  await scrolledTo(stand, standRow(page, 'Card 400'));
  expect(await depthOf(page, 'Card 400')).toBe(320);
  await page.keyboard.press('Control+z');
  await expect(standRow(page, 'Card 400')).toHaveAccessibleName('Card 400, depth 0 px');
  await saved(page);
});
