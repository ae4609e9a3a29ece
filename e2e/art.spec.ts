import { openRasterZip, stackXml } from '@keen-ridge/core/testing';
import { writePsdUint8Array } from 'ag-psd';
import sharp from 'sharp';
import { accessFaults } from './accessibility.ts';
import { expect, test } from './app-server.ts';
import { jettyLayers } from './painting.ts';
import {
  artFile,
  artRow,
  bringIn,
  choose,
  fillNumber,
  goToStep,
  importJetty,
  jettyShot,
  land,
  makeShot,
  panelTab,
  renderedFrame,
  saved,
  standRow,
  worstDifference,
} from './steps.ts';

const FRAME = { width: 320, height: 180 };
/** The part of a painting of this size that the home camera sees, as RGB over black. */
async function seenOf(painting: Buffer, width: number, height: number): Promise<Uint8Array> {
  const flat = await sharp(painting).flatten({ background: '#000000' }).raw().toBuffer();
  const seen = await sharp(flat, { raw: { width, height, channels: 3 } })
    .extract({ left: (width - FRAME.width) / 2, top: (height - FRAME.height) / 2, ...FRAME })
    .raw()
    .toBuffer();
  return new Uint8Array(seen);
}
const mergedJetty = async (): Promise<Buffer> => {
  const [bottom, ...others] = (await jettyLayers()).toReversed();
  return sharp(Buffer.from(bottom!.png))
    .composite(others.map(({ png }) => ({ input: Buffer.from(png) })))
    .png()
    .toBuffer();
};
const jettyPsd = async (): Promise<Buffer> => {
  const layers = await Promise.all(
    (await jettyLayers()).map(async ({ name, png }) => {
      const { data, info } = await sharp(Buffer.from(png))
        .ensureAlpha()
        .raw()
        .toBuffer({ resolveWithObject: true });
      const imageData = { width: info.width, height: info.height, data: new Uint8ClampedArray(data) };
      return { name, left: 0, top: 0, imageData };
    }),
  );
  const [rail, jetty, sheds, sky] = layers;
  const near = { name: 'Near', opened: true, children: [jetty!, rail!] };
  return Buffer.from(writePsdUint8Array({ width: 960, height: 400, children: [sky!, sheds!, near] }));
};

test('a painted document comes in exactly in place, from OpenRaster and from PSD', async ({ page, app }) => {
  const expected = await seenOf(await mergedJetty(), 960, 400);
  await makeShot(page, app.url, 'In place');
  await importJetty(page);
  await saved(page);
  expect(worstDifference(await renderedFrame(page), expected)).toBeLessThanOrEqual(1);

  await makeShot(page, app.url, 'In place from PSD');
  await bringIn(page, [artFile('jetty.psd', await jettyPsd())]);
  await expect(page.getByText('4 layers · 4 planes')).toBeVisible();
  expect(await accessFaults(page, '[role=dialog]')).toEqual([]);
  // One click makes one plane of each group.
  await page.getByRole('button', { name: 'one plane', exact: true }).click();
  await expect(page.getByText('4 layers · 3 planes')).toBeVisible();
  await land(page);
  await expect(page.getByText('3 planes', { exact: true })).toBeVisible();
  await expect(artRow(page, 'Near')).toBeVisible();
  await saved(page);
  expect(worstDifference(await renderedFrame(page), expected)).toBeLessThanOrEqual(1);
  // Undone, and brought in again as layers: the group stays a group.
  await page.keyboard.press('Control+z');
  await bringIn(page, [artFile('jetty.psd', await jettyPsd())]);
  await land(page);
  await expect(artRow(page, 'Near rail')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Hide group Near' })).toBeVisible();
});

test('a small painting is told to be small, and can be made to cover the frame', async ({ page, app }) => {
  await makeShot(page, app.url, 'Small');
  const small = await sharp({ create: { width: 200, height: 100, channels: 3, background: '#aa7744' } })
    .png()
    .toBuffer();
  await bringIn(page, [artFile('small_sky copy.png', small)]);
  // 200 × 100 px in a frame of 320 × 180 leave 37 600 px empty.
  await expect(page.getByText('37,600 px of the frame are empty')).toBeVisible();
  await choose(page, 'Size on the datum', 'Cover the frame');
  await expect(page.getByText('small_sky copy is soft')).toBeVisible();
  await expect(page.getByText('1.82 px of the film for each painted px')).toBeVisible();
  await page.getByLabel('Tidy names').check();
  await land(page);
  await expect(artRow(page, 'Small sky')).toBeVisible();
  await saved(page);
  const pixels = await renderedFrame(page);
  expect(pixels.filter((v, i) => i % 3 === 0 && Math.abs(v - 0xaa) > 1).length).toBe(0);
  // Its size is told as it is; whether that is a fault is the survey's word alone.
  await artRow(page, 'Small sky').click();
  await expect(page.getByText('Shown at 182 % of its size at most.')).toBeVisible();
  await expect(page.getByText('Small sky is soft')).toBeVisible();
});

test('a new version keeps depth and keys, finds a renamed layer, and one undo brings everything back', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'Versions');
  await standRow(page, 'Sheds').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '444');
  await goToStep(page, 'Art');
  const layers = await jettyLayers();
  const changed = layers
    .filter(({ name }) => name !== 'Near rail')
    .map(({ name, png }) => ({ name: name === 'Sheds' ? 'Boat houses' : name, png }));
  const gull = await sharp({ create: { width: 9, height: 6, channels: 4, background: '#ffffff' } })
    .png()
    .toBuffer();
  const parts = Object.fromEntries([
    ...changed.map(({ png }, i) => [`data/${i}.png`, png]),
    ['data/g.png', new Uint8Array(gull)],
  ]);
  const tags = changed.map(({ name }, i) => `<layer name="${name}" src="data/${i}.png"/>`);
  const xml = stackXml(
    `<layer name="Gull" src="data/g.png" x="400" y="60"/>${tags.join('')}`,
    'w="960" h="400"',
  );
  await bringIn(page, [artFile('jetty.ora', Buffer.from(openRasterZip({ 'stack.xml': xml, ...parts })))]);
  await expect(page.getByText('2 by name, 1 by likeness, 1 added, 1 gone.')).toBeVisible();
  await page.getByLabel('Delete planes whose layer is gone').check();
  await land(page);
  await expect(artRow(page, 'Gull')).toBeVisible();
  await expect(artRow(page, 'Near rail')).toHaveCount(0);
  await goToStep(page, 'Stage');
  await expect(standRow(page, 'Sheds')).toHaveAccessibleName('Sheds, depth 444 px');
  await expect(standRow(page, 'Gull')).toHaveAccessibleName('Gull, depth 0 px');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(standRow(page, 'Near rail')).toBeVisible();
  await expect(standRow(page, 'Gull')).toHaveCount(0);
  await expect(standRow(page, 'Sheds')).toHaveAccessibleName('Sheds, depth 444 px');
  await saved(page);
});

test('planes are found, grouped, locked, shown alone, reordered and renamed', async ({ page, app }) => {
  await jettyShot(page, app.url, 'Order', { step: 'Art' });
  const names = () =>
    page
      .getByRole('list', { name: 'Planes, on top first' })
      .locator('button[aria-pressed][id]')
      .evaluateAll((rows) => rows.map((row) => row.firstElementChild?.textContent));
  await artRow(page, 'Near rail').click();
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(names).toEqual(['Jetty', 'Near rail', 'Sheds', 'Evening sky']);
  await artRow(page, 'Sheds').click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Group', exact: true }).click();
  const group = page.getByRole('button', { name: 'Group 1', exact: true });
  await group.dblclick();
  await page.getByLabel('Name of the group').fill('By the water');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'By the water', exact: true }).click();
  await expect(page.getByText('2 chosen')).toBeVisible();
  await goToStep(page, 'Stage');
  await panelTab(page, 'Place');
  await fillNumber(page.getByLabel('East by'), '40');
  await standRow(page, 'Sheds').click();
  await expect(page.getByLabel('East', { exact: true })).toHaveValue('40');
  // The keys that reorder on Art do not move anything on the stage.
  await standRow(page, 'Near rail').click();
  await expect(page.getByLabel('South', { exact: true })).toHaveValue('0');
  await standRow(page, 'Sheds').click();
  await goToStep(page, 'Art');
  await page.getByRole('button', { name: 'Lock group By the water' }).click();
  await goToStep(page, 'Stage');
  await standRow(page, 'Sheds').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '300');
  await expect(standRow(page, 'Sheds')).toHaveAccessibleName('Sheds, depth 0 px');
  await goToStep(page, 'Art');
  await page.getByLabel('Find by name').fill('sky');
  await expect.poll(names).toEqual(['Evening sky']);
  await page.getByLabel('Find by name').fill('');
  await page.getByRole('button', { name: 'Show Evening sky alone' }).click();
  await expect(page.getByRole('button', { name: 'Solo off' })).toBeVisible();
  await page.getByRole('button', { name: 'Solo off' }).click();
  await artRow(page, 'Jetty').focus();
  await page.keyboard.press('F2');
  await page.getByLabel('Name of the plane').fill('Sheds');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Used twice: Sheds.')).toBeVisible();
  await page.getByRole('button', { name: 'Tidy names' }).click();
  await expect(artRow(page, 'Sheds 2')).toBeVisible();
  const box = await artRow(page, 'Evening sky').boundingBox();
  const goal = await page
    .getByRole('region', { name: 'Stack' })
    .getByRole('button', { name: 'Sheds', exact: true })
    .first()
    .boundingBox();
  if (!box || !goal) throw new Error('no rows');
  await page.mouse.move(8, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(8, box.y - 20, { steps: 4 });
  await page.mouse.move(8, goal.y + 4, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => (await names())[0]).toBe('Evening sky');
  await saved(page);
});

test('a piece on the shelf goes into another shot, twice without looking alike', async ({ page, app }) => {
  await jettyShot(page, app.url, 'Shelf', { step: 'Art' });
  await artRow(page, 'Sheds').click();
  await page.getByRole('button', { name: 'Keep on the shelf' }).click();
  await expect(page.getByText('Sheds on the art shelf')).toBeVisible();
  await page.getByRole('button', { name: 'Art shelf' }).click();
  const piece = page
    .getByRole('region', { name: 'Art shelf' })
    .getByRole('button', { name: 'Sheds', exact: true });
  await piece.click();
  await expect(artRow(page, 'Sheds 2')).toBeVisible();
  // Two planes, one of them moved, go onto the shelf as a set and come back as they were staged.
  await artRow(page, 'Jetty').click();
  await artRow(page, 'Near rail').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Keep on the shelf' }).click();
  await expect(page.getByText('2 planes on the art shelf')).toBeVisible();
  await page
    .getByRole('region', { name: 'Art shelf' })
    .getByRole('button', { name: '2 planes', exact: true })
    .click();
  await expect(artRow(page, 'Jetty 2')).toBeVisible();
  await expect(page.getByRole('heading', { name: '2 planes' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(artRow(page, 'Jetty 2')).toHaveCount(0);
  await artRow(page, 'Sheds').click();
  await page.getByRole('button', { name: 'Copy …' }).click();
  await fillNumber(page.getByLabel('Saturation to'), '0');
  await fillNumber(page.getByLabel('Squash height to'), '50');
  await page.getByRole('button', { name: 'Make the copy' }).click();
  await expect(artRow(page, 'Sheds 3')).toBeVisible();
  await expect(page.getByText('recoloured · 960 × 400 px')).toBeVisible();
  await goToStep(page, 'Stage');
  await panelTab(page, 'Place');
  await expect(page.getByLabel('Size', { exact: true })).toHaveValue('1');
  await saved(page);
});
