import type { Page } from '@playwright/test';
import { expect, test } from './app-server.ts';
import {
  dragBy,
  fillNumber,
  inDock,
  jettyShot,
  picturePixels,
  saved,
  shareThatDiffers,
  worstDifference,
} from './steps.ts';

const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name, exact: true });
async function inPopover(page: Page, name: string | RegExp, work: () => Promise<void>) {
  await button(page, name).first().click();
  await work();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
}
const numberIn = async (page: Page, label: string): Promise<number> =>
  Number(
    (await page.getByLabel(label, { exact: true }).inputValue()).replace('−', '-').replace(/[^\d.-]/g, ''),
  );

test('the camera holds sizes, frames planes, swaps its ends, rests and glides; curves and the view from above shape it', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'Shape more', { step: 'Move', lengthFrames: 48 });
  await button(page, 'Key Truck at frame 1').click();
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Truck', { exact: true }), '120');
  await page.keyboard.press('Escape');

  // The datum's planes stay as large as they were while the camera trucks: the zoom makes up for it.
  await page.keyboard.press('Home');
  const first = await picturePixels(page, 1);
  const picture = page.getByRole('application').first();
  const { width, height } = (await picture.boundingBox())!;
  await picture.click({ position: { x: width / 2, y: height * 0.62 } });
  await inDock(page, 'Camera …', () => button(page, 'Keep its size').click());
  await page.keyboard.press('Escape');
  await page.keyboard.press('End');
  // All four planes stand on the datum, so nothing changes at all.
  expect(shareThatDiffers(first, await picturePixels(page, 48), 3)).toBeLessThan(0.002);
  await inDock(page, 'Camera …', () => button(page, 'Let go').click());
  const near = await picturePixels(page, 48);
  expect(shareThatDiffers(first, near, 8)).toBeGreaterThan(0.05);

  // What is seen last is seen first.
  await inDock(page, 'Camera …', () => button(page, 'Swap start and end').click());
  await page.keyboard.press('Home');
  expect(worstDifference(near, await picturePixels(page, 1))).toBe(0);
  await page.keyboard.press('Control+z');

  // Framed: what is chosen just fits; a glide runs from there to the end.
  await picture.click({ position: { x: width / 2, y: height * 0.62 } });
  await inDock(page, 'Camera …', () => button(page, 'Frame what is chosen').click());
  await expect(button(page, 'Zoom key at frame 1')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');

  // A rest truly stands still, and pushes later keys on.
  for (let i = 0; i < 11; i++) await page.keyboard.press('ArrowRight');
  await inPopover(page, 'Keys …', async () => {
    await fillNumber(page.getByLabel('For', { exact: true }), '0.5s');
    await button(page, 'Rest').click();
  });
  const at12 = await picturePixels(page, 12);
  await expect(button(page, 'Truck key at frame 24')).toBeVisible();
  // What was pushed past the end is said, with the cure.
  await button(page, 'Make it 60 f long').click();
  await expect(button(page, 'Truck key at frame 60')).toBeVisible();
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
  expect(worstDifference(at12, await picturePixels(page, 24))).toBe(0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');

  // On its curve a key goes up by mouse; from above the path is dragged into the depth.
  await button(page, 'Curves').click();
  await button(page, 'From above beside the other').click();
  await page.keyboard.press('End');
  const before = await numberIn(page, 'Truck');
  const onCurve = page.getByRole('button', { name: 'Truck key at frame 48 on its curve' });
  await expect(onCurve).toBeVisible();
  await dragBy(page, onCurve, 0, 20);
  await expect.poll(() => numberIn(page, 'Truck')).toBeLessThan(before - 5);
  const lower = await numberIn(page, 'Truck');
  const handle = page.getByRole('button', { name: /^Leaving handle of Truck 1 → 48$/ });
  await dragBy(page, handle, 40, 0);
  await page.getByTestId('span-camera/truck-1').click();
  await expect(button(page, 'In-out')).toHaveAttribute('aria-pressed', 'false');
  await dragBy(page, page.getByRole('button', { name: 'Path key at frame 48 from above' }), 0, -14);
  await expect.poll(() => numberIn(page, 'Truck')).toBeGreaterThan(lower);

  // Ghosts of another frame, and the frame of another time along a line.
  await button(page, 'Camera').click();
  const plain = await picturePixels(page, 48);
  await inDock(page, 'Ghosts', async () => {
    await fillNumber(page.getByLabel('Wipe to frame', { exact: true }), '1');
    await button(page, 'Compare').click();
  });
  await expect(page.getByRole('slider', { name: 'Wipe between now and frame 1' })).toBeVisible();
  await inDock(page, 'Ghosts', () => button(page, 'End the wipe').click());
  await picture.click({ position: { x: width / 2, y: height * 0.62 } });
  await inDock(page, 'Ghosts', () => page.getByRole('radio', { name: 'Chosen planes' }).click());
  expect(shareThatDiffers(plain, await picturePixels(page, 48), 3)).toBeGreaterThan(0.01);
  await inDock(page, 'Ghosts', () => page.getByRole('radio', { name: 'Off' }).click());
  await saved(page);
});
