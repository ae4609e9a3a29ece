import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
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

test('five hundred planes come in, are chosen together, moved in depth and taken back', async ({
  page,
  app,
}) => {
  test.setTimeout(240_000);
  await makeShot(page, app.url, 'Many');
  await bringIn(page, [artFile('many.ora', await manyLayers())]);
  await land(page);
  await expect(page.getByText(`${COUNT} planes`, { exact: true })).toBeVisible();
  await artRow(page, 'Card 3').click();
  await artRow(page, 'Card 12').click({ modifiers: ['Shift'] });
  await expect(page.getByRole('heading', { name: '10 planes' })).toBeVisible();
  await goToStep(page, 'Stage');
  await picturePixels(page, 1);
  await standRow(page, 'Card 3').press('Control+a');
  await expect(page.getByRole('heading', { name: `${COUNT} planes` })).toBeVisible();
  await fillNumber(page.getByLabel('Depth', { exact: true }), '320');
  expect(await depthOf(page, 'Card 400')).toBe(320);
  await page.keyboard.press('Control+z');
  await expect(standRow(page, 'Card 400')).toHaveAccessibleName('Card 400, depth 0 px');
  await saved(page);
});
