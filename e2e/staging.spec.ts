import { spreadDepths } from '@keen-ridge/core/stage';
import { expect, test } from './app-server.ts';
import {
  bar,
  choose,
  depthOf,
  dragBy,
  fillNumber,
  goToStep,
  jettyShot,
  onScreen,
  panelTab,
  picturePixels,
  saved,
  shareThatDiffers,
  standRow,
  worstDifference,
} from './steps.ts';

type Page = import('@playwright/test').Page;
const NAMES = ['Near rail', 'Jetty', 'Sheds', 'Evening sky'] as const;
/** The frame of the shot is 320 px wide, so home is as far. */
const HOME_SPX = 320;

test.beforeEach(async ({ page, app }, info) => {
  await jettyShot(page, app.url, `Staging ${info.title.slice(0, 30)}`);
  await expect(standRow(page, 'Sheds')).toBeVisible();
});

const undo = (page: Page) => page.keyboard.press('Control+z');

test('a flat stack becomes a stage in one gesture, tried with a rock, and the picture at home stays', async ({
  page,
}) => {
  const flat = await picturePixels(page, 1);
  await page.getByRole('button', { name: 'Spread …' }).click();
  const panel = page.getByRole('region', { name: 'Spread', exact: true });
  await fillNumber(panel.getByLabel('Nearest speed'), '150');
  await fillNumber(panel.getByLabel('Farthest speed'), '25');
  await panel.getByRole('radio', { name: 'Speed' }).click();
  const spread = { nearestSpeed: 1.5, farthestSpeed: 0.25, step: 'speed', strength: 1 } as const;
  const expected = spreadDepths(4, spread, HOME_SPX).map(Math.round);
  const depths = async () => Promise.all(NAMES.map((name) => depthOf(page, name)));
  await expect.poll(depths).toEqual(expected);
  // Nothing is kept until it is meant.
  await expect(page.getByRole('button', { name: /^Undo/ })).toHaveAccessibleDescription('Nothing to undo');
  await panel.getByRole('button', { name: 'Spread 4' }).click();
  expect(await depths()).toEqual(expected);
  expect(worstDifference(flat, await picturePixels(page, 1))).toBeLessThanOrEqual(1);

  const rock = page.getByRole('button', { name: 'Rock', exact: true });
  await rock.click();
  const canvas = page.getByTestId('picture');
  const seen = new Set<string>();
  await expect(async () => {
    seen.add(await canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL()));
    expect(seen.size).toBeGreaterThan(4);
  }).toPass({ intervals: [60] });
  const before = await depths();
  for (const [name, by] of [
    ['Near rail', 24],
    ['Sheds', 31],
    ['Evening sky', -40],
  ] as const)
    await dragBy(page, bar(page, name), 0, by);
  const after = await depths();
  expect([after[0]! > before[0]!, after[1], after[2]! > before[2]!, after[3]! < before[3]!]).toEqual([
    true,
    before[1],
    true,
    true,
  ]);
  await expect(rock).toHaveAttribute('aria-pressed', 'true');
  await rock.click();
  expect(worstDifference(flat, await picturePixels(page, 1))).toBeLessThanOrEqual(1);
  // Four edits, and the rock is none of them.
  for (let i = 0; i < 4; i++) await undo(page);
  expect(await depths()).toEqual([0, 0, 0, 0]);
  expect(worstDifference(flat, await picturePixels(page, 1))).toBe(0);
});

test('Spread leaves as it was what is not kept, and what is locked', async ({ page }) => {
  await goToStep(page, 'Art');
  await page.getByRole('button', { name: 'Lock Jetty' }).click();
  await goToStep(page, 'Stage');
  await page.getByRole('button', { name: 'Spread …' }).click();
  await expect(page.getByRole('button', { name: 'Spread 3' })).toBeVisible();
  await expect.poll(() => depthOf(page, 'Evening sky')).toBeGreaterThan(1000);
  expect(await depthOf(page, 'Jetty')).toBe(0);
  await page.getByRole('button', { name: 'Cancel' }).click();
  expect(await depthOf(page, 'Evening sky')).toBe(0);
});

test('a dragged bar takes the depth of another that it comes to', async ({ page }) => {
  await standRow(page, 'Evening sky').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '640');
  await page.keyboard.press('Escape');
  const [from, to] = [await bar(page, 'Sheds').boundingBox(), await bar(page, 'Evening sky').boundingBox()];
  if (!from || !to) throw new Error('no bars');
  await standRow(page, 'Sheds').click();
  await dragBy(page, bar(page, 'Sheds'), 0, to.y - from.y + 3);
  expect(await depthOf(page, 'Sheds')).toBe(640);
});

test('depths of several planes are scaled, flattened and turned round', async ({ page }) => {
  for (const [name, depth] of [
    ['Sheds', '320'],
    ['Evening sky', '960'],
  ] as const) {
    await standRow(page, name).click();
    await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), depth);
  }
  await standRow(page, 'Sheds').click({ modifiers: ['Shift'] });
  await fillNumber(page.getByLabel('Scale depths'), '50');
  // Half the strength is the square root of the ratio of distances: 320·√2 − 320 and 320·√4 − 320.
  expect([await depthOf(page, 'Sheds'), await depthOf(page, 'Evening sky')]).toEqual([133, 320]);
  await page.getByRole('button', { name: 'Reverse' }).click();
  expect([await depthOf(page, 'Sheds'), await depthOf(page, 'Evening sky')]).toEqual([320, 133]);
  await page.getByRole('button', { name: 'Flatten' }).click();
  expect([await depthOf(page, 'Sheds'), await depthOf(page, 'Evening sky')]).toEqual([133, 133]);
});

test('a second click at the same place goes through to the plane behind', async ({ page }) => {
  await picturePixels(page, 1);
  const at = await onScreen(page, 160, 80);
  const heading = page.getByRole('region', { name: 'Plane' }).getByRole('heading');
  await page.mouse.click(at.x, at.y);
  await expect(heading).toHaveText('Sheds');
  await page.mouse.click(at.x, at.y);
  await expect(heading).toHaveText('Evening sky');
  await page.mouse.click(at.x, at.y);
  await expect(heading).toHaveText('Sheds');
});

test('a plane is moved, sized and turned in the picture, by mouse and by keys', async ({ page }) => {
  await picturePixels(page, 1);
  await standRow(page, 'Sheds').click();
  await panelTab(page, 'Place');
  const field = (name: string) => page.getByLabel(name, { exact: true });
  const scale = Number(
    await page.getByRole('application', { name: /through the camera/ }).getAttribute('data-scale'),
  );
  const at = await onScreen(page, 160, 80);
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.mouse.move(at.x + 20 * scale, at.y - 10 * scale, { steps: 5 });
  await page.mouse.up();
  await expect(field('East')).toHaveValue('20');
  await expect(field('South')).toHaveValue('−10');
  await page.keyboard.press('Alt+ArrowLeft');
  await page.keyboard.press('Alt+Shift+ArrowDown');
  await expect(field('East')).toHaveValue('19');
  await expect(field('South')).toHaveValue('0');
  // The lower edge of the paint lies 70 px under the anchor: 35 px more are half as high again.
  await dragBy(page, page.getByTestId('handle-side-3'), 0, 35 * scale);
  await expect(field('High')).toHaveValue('1.5');
  await expect(field('Wide')).toHaveValue('1');
  await undo(page);
  await dragBy(page, page.getByTestId('handle-turn'), 120, 60);
  expect(Number((await field('Rotation').inputValue()).replace('−', '-'))).toBeGreaterThan(20);
  await undo(page);
  await expect(field('Rotation')).toHaveValue('0');
  // The anchor moves and the picture does not.
  const before = await picturePixels(page, 1);
  await dragBy(page, page.getByTestId('handle-anchor'), -30, -20);
  await expect(field('East')).not.toHaveValue('19');
  await fillNumber(field('Anchor E'), '100');
  expect(worstDifference(before, await picturePixels(page, 1))).toBe(0);
});

test('a box in the picture chooses what lies in it; what is chosen is sized and turned together', async ({
  page,
}) => {
  await picturePixels(page, 1);
  const heading = page.getByRole('region', { name: 'Plane' }).getByRole('heading');
  const box = async (from: readonly [number, number], to: readonly [number, number], givenUp = false) => {
    const [p, q] = [await onScreen(page, ...from), await onScreen(page, ...to)];
    await page.mouse.move(p.x, p.y);
    await page.mouse.down();
    await page.mouse.move(q.x, q.y, { steps: 5 });
    await expect(page.getByTestId('choosing-box')).toBeVisible();
    if (givenUp) await page.keyboard.press('Escape');
    await page.mouse.up();
    await expect(page.getByTestId('choosing-box')).toHaveCount(0);
  };
  // In the frame the jetty takes the lowest 30 px, and the sheds the upper 160.
  await box([-4, 146], [324, 184]);
  await expect(heading).toHaveText('Jetty');
  await box([-4, -4], [324, 184], true);
  await expect(heading).toHaveText('Jetty');
  await page.keyboard.down('Shift');
  await box([-4, -4], [324, 164]);
  await page.keyboard.up('Shift');
  await expect(heading).toHaveText('2 planes');
  const start = await picturePixels(page, 1);
  await panelTab(page, 'Place');
  await fillNumber(page.getByLabel('Size by', { exact: true }), '1.5');
  const sized = await picturePixels(page, 1);
  expect(shareThatDiffers(start, sized, 24)).toBeGreaterThan(0.02);
  await undo(page);
  await dragBy(page, page.getByTestId('handle-turn'), 90, 30);
  await saved(page);
  expect(shareThatDiffers(start, await picturePixels(page, 1), 24)).toBeGreaterThan(0.02);
  await standRow(page, 'Sheds').click();
  await expect(page.getByLabel('Rotation', { exact: true })).not.toHaveValue('0');
  await standRow(page, 'Jetty').click();
  await expect(page.getByLabel('Rotation', { exact: true })).not.toHaveValue('0');
  await undo(page);
  await expect(page.getByLabel('Rotation', { exact: true })).toHaveValue('0');
  expect(worstDifference(start, await picturePixels(page, 1))).toBe(0);
});

test('flips, alignment and covering do what they say', async ({ page }) => {
  await standRow(page, 'Sheds').click();
  await panelTab(page, 'Place');
  const start = await picturePixels(page, 1);
  await page.getByRole('button', { name: 'Flip E–W' }).click();
  expect(shareThatDiffers(start, await picturePixels(page, 1), 24)).toBeGreaterThan(0.02);
  await page.getByRole('button', { name: 'Flip E–W' }).click();
  expect(worstDifference(start, await picturePixels(page, 1))).toBe(0);
  await page.getByRole('button', { name: 'Align …' }).click();
  await page.getByRole('button', { name: 'West', exact: true }).click();
  await page.keyboard.press('Escape');
  // The sheds are painted from 120 to 800 of 960, so 340 px reach left of the middle: 340 − 160 = 180 px inwards.
  await expect(page.getByLabel('East', { exact: true })).toHaveValue('200');
  await page.getByRole('button', { name: 'Cover', exact: true }).click();
  // 180 px of height from a paint 160 px high.
  await expect(page.getByLabel('Size', { exact: true })).toHaveValue('1.125');
});

test('a plane rides on another, and none rides in a ring', async ({ page }) => {
  await standRow(page, 'Sheds').click();
  const before = await picturePixels(page, 1);
  await choose(page, 'Mounted on', 'Evening sky');
  expect(worstDifference(before, await picturePixels(page, 1))).toBe(0);
  await standRow(page, 'Evening sky').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '320');
  expect(await depthOf(page, 'Sheds')).toBe(320);
  expect(worstDifference(before, await picturePixels(page, 1))).toBeLessThanOrEqual(1);
  await choose(page, 'Mounted on', 'Sheds');
  await expect(page.getByText('Evening sky rides on itself, by way of Sheds.')).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'Mounted on' })).toHaveText('stage');
  // Together on an empty carrier they move as one.
  await standRow(page, 'Evening sky').click();
  await standRow(page, 'Jetty').click({ modifiers: ['Control'] });
  await panelTab(page, 'Place');
  await page.getByRole('button', { name: 'Add carrier' }).click();
  await expect(standRow(page, 'Carrier')).toBeVisible();
  await expect(page.getByRole('combobox', { name: 'Mounted on' })).toHaveText('Carrier');
});
