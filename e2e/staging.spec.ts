import { spreadDepths } from '@keen-ridge/core/stage';
import { expect, test } from './app-server.ts';
import {
  bar,
  choose,
  depthOf,
  dragBy,
  fillNumber,
  goToStep,
  importJetty,
  inDock,
  makeShot,
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
  await makeShot(page, app.url, `Staging ${info.title.slice(0, 30)}`);
  await importJetty(page);
  await goToStep(page, 'Stage');
  await expect(standRow(page, 'Sheds')).toBeVisible();
});

const undo = (page: Page) => page.keyboard.press('Control+z');

/** A point of the frame, px from its upper left, in CSS px of the page. */
async function onScreen(page: Page, x: number, y: number): Promise<{ x: number; y: number }> {
  const box = await page.getByTestId('picture').boundingBox();
  const scale = Number(
    await page.getByRole('application', { name: /through the camera/ }).getAttribute('data-scale'),
  );
  if (!box || !scale) throw new Error('no picture');
  return {
    x: box.x + box.width / 2 + (x - 160) * scale,
    y: box.y + box.height / 2 + (y - 90) * scale,
  };
}

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
  await expect(page.getByRole('button', { name: /^Undo/ })).toHaveAccessibleDescription(/adding/);
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

test('the world runs past by depth, and the loop closes to the pixel', async ({ page }) => {
  for (const name of ['Jetty', 'Sheds', 'Evening sky']) {
    await standRow(page, name).click();
    await panelTab(page, 'Run');
    await page.getByRole('radio', { name: 'E–W' }).click();
  }
  await standRow(page, 'Sheds').click();
  await panelTab(page, 'Depth');
  await fillNumber(page.getByLabel('Speed', { exact: true }), '50');
  await panelTab(page, 'Run');
  await inDock(page, 'Run the world …', async () => {
    await fillNumber(page.getByLabel('At, on the datum'), '37');
    await page.getByRole('button', { name: 'To the west' }).click();
  });
  await expect(page.getByText('18.5 px a frame on screen.')).toBeVisible();

  const report = page.getByTestId('loop-report');
  await page.getByRole('button', { name: 'Loop …' }).click();
  // 24 frames at 37 px pass 888 of 960 px: 0.925 of a turn; at half the speed half of that.
  await expect(report.getByText('−0.925× → −1× (+8.11 %)')).toHaveCount(2);
  await expect(report.getByText('−0.463× → −1× (+116.22 %)')).toBeVisible();
  await report.getByRole('button', { name: 'Change speeds' }).click();
  await expect(report.getByText('Frame 25 is frame 1 again.')).toBeVisible();
  await page.getByRole('button', { name: 'Loop closes', exact: true }).click();
  await page.keyboard.press('Escape');
  const first = await picturePixels(page, 1);
  await page.keyboard.press('End');
  expect(shareThatDiffers(first, await picturePixels(page, 24), 8)).toBeGreaterThan(0.004);
  await goToStep(page, 'Move');
  await page.getByRole('button', { name: /^24 f/ }).click();
  await fillNumber(page.getByLabel('Length', { exact: true }), '25');
  await page.keyboard.press('Escape');
  await goToStep(page, 'Stage');
  await page.keyboard.press('End');
  expect(worstDifference(first, await picturePixels(page, 25))).toBe(0);
});

test('a run starts and stops by keys, and a seam that shows is measured and faded', async ({ page }) => {
  await standRow(page, 'Sheds').click();
  await panelTab(page, 'Run');
  await fillNumber(page.getByLabel('Runs east', { exact: true }), '6');
  const still = await picturePixels(page, 1);
  await inDock(page, 'Start and stop …', async () => {
    await fillNumber(page.getByLabel('Starts'), '5');
    await fillNumber(page.getByLabel('Stops'), '9');
    await page.getByRole('button', { name: 'Key it' }).click();
  });
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  expect(worstDifference(still, await picturePixels(page, 5))).toBe(0);
  await page.keyboard.press('End');
  const stopped = await picturePixels(page, 24);
  expect(shareThatDiffers(still, stopped, 24)).toBeGreaterThan(0.02);
  await page.keyboard.press('ArrowLeft');
  expect(worstDifference(stopped, await picturePixels(page, 23))).toBe(0);

  // The evening sky is even from side to side, and very different above and below.
  await standRow(page, 'Evening sky').click();
  await page.getByRole('radio', { name: 'Both' }).click();
  await page.getByRole('button', { name: 'Seam …' }).click();
  await expect(page.getByTestId('seam-across')).toContainText('It will not be seen.');
  await expect(page.getByTestId('seam-down')).toContainText('The seam will be seen.');
  const down = page.getByRole('region', { name: 'Seam N–S' });
  await fillNumber(down.getByLabel('Fade over about'), '100');
  await down.getByRole('button', { name: 'Fade the edge, leaving 288 px' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.getByRole('button', { name: 'Seam …' }).click();
  await expect(page.getByTestId('seam-down')).toContainText('It will not be seen.');
  await page.keyboard.press('Escape');
  await saved(page);
});

test('a speed is set by how long the frame takes, or by one spot in two frames', async ({ page }) => {
  await standRow(page, 'Sheds').click();
  await page.getByRole('button', { name: 'Measure …' }).click();
  await fillNumber(page.getByLabel('Crosses the frame in'), '2');
  // 320 px in 2 s at 24 a second.
  await expect(page.getByText('That is 6.67 px a frame.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'By depth' })).toBeDisabled();
  await page.getByRole('button', { name: 'Run west' }).click();
  await panelTab(page, 'Run');
  await expect(page.getByLabel('Runs east', { exact: true })).toHaveValue('−6.67');
  await page.getByRole('button', { name: 'Stand still' }).click();

  await panelTab(page, 'Depth');
  await page.getByRole('button', { name: 'Measure …' }).click();
  await page.getByRole('button', { name: 'Point at two spots' }).click();
  await picturePixels(page, 1);
  const [from, to] = [await onScreen(page, 160, 80), await onScreen(page, 120, 80)];
  await page.mouse.click(from.x, from.y);
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowRight');
  await page.mouse.click(to.x, to.y);
  await panelTab(page, 'Run');
  // 40 px to the west in 10 frames while the camera rests.
  await expect(page.getByLabel('Runs east', { exact: true })).toHaveValue('−4');
});

test('two views stand side by side; fielding keys the camera, and the stage is seen from around', async ({
  page,
}) => {
  await page.getByRole('button', { name: 'Fielding beside the other' }).click();
  await expect(page.getByTestId('view-camera')).toBeVisible();
  await page.getByRole('button', { name: 'Rock', exact: true }).click();
  const before = await page.getByTestId('field-24').locator('path').first().getAttribute('d');
  await dragBy(page, page.getByTestId('field-24-label'), 40, 0);
  // The first edit of the camera ends the rock.
  await expect(page.getByRole('button', { name: 'Rock', exact: true })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
  expect(await page.getByTestId('field-24').locator('path').first().getAttribute('d')).not.toBe(before);
  await expect(page.getByRole('button', { name: /^Undo/ })).toHaveAccessibleDescription(/keying pan at 24/);
  await dragBy(page, page.getByTestId('field-24-corner-2'), -20, -12);
  await expect(page.getByRole('button', { name: /^Undo/ })).toHaveAccessibleDescription(/keying zoom at 24/);

  await page.getByRole('button', { name: 'Close Fielding' }).click();
  await page.getByRole('button', { name: 'Around beside the other' }).click();
  const around = page.getByTestId('around');
  await expect(around).toHaveAttribute('data-cards', '4');
  const box = await around.boundingBox();
  if (!box) throw new Error('no view');
  // The middle of the view looks at the datum: a click there takes a card, a drag of it gives it depth.
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  const chosen = await page.getByRole('region', { name: 'Plane' }).getByRole('heading').textContent();
  if (!chosen) throw new Error('nothing was chosen');
  const depth = await depthOf(page, chosen);
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 40, box.y + box.height / 2 - 30, { steps: 5 });
  await page.mouse.up();
  expect(await depthOf(page, chosen)).not.toBe(depth);
});

test('the view zooms at the pointer, pans, and shows px for px; guides lie where their standards say', async ({
  page,
}) => {
  const picture = page.getByRole('application', { name: /through the camera/ });
  const zoom = page.getByTestId('zoom');
  const fitted = await zoom.textContent();
  await page.getByRole('button', { name: '100 %', exact: true }).click();
  await expect(zoom).toHaveText('100 %');
  const at = await onScreen(page, 200, 100);
  await page.mouse.move(at.x, at.y);
  await page.mouse.wheel(0, -400);
  await expect(zoom).not.toHaveText('100 %');
  await page.keyboard.down('Space');
  await page.mouse.down();
  await page.mouse.move(at.x - 50, at.y, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.up('Space');
  // Space was held to pan, so nothing plays and nothing was chosen.
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Plane' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await expect(zoom).toHaveText(fitted ?? '');

  await inDock(page, 'View', async () => {
    await page.getByRole('radio', { name: '93/90' }).click();
    await page.getByLabel('Field chart').check();
    await page.getByRole('radio', { name: '2.39' }).click();
  });
  const scale = Number(await picture.getAttribute('data-scale'));
  const width = async (area: string) =>
    Number(await page.getByTestId(`safe-${area}`).getAttribute('data-width')) / scale / 320;
  expect(await width('action')).toBeCloseTo(0.93, 6);
  expect(await width('title')).toBeCloseTo(0.9, 6);
  await expect(page.getByTestId('aspect-mask')).toHaveCount(1);
  await expect(page.getByTestId('field-chart')).toContainText('N');
  // They are there again after a reload.
  await page.reload();
  await expect(page.getByTestId('safe-title')).toHaveCount(1);
});

test('a stand-in figure stands at a plane’s distance and is not kept', async ({ page }) => {
  const before = await picturePixels(page, 1);
  await standRow(page, 'Sheds').click();
  await inDock(page, 'Stand-in', async () => {
    await fillNumber(page.getByLabel('Height on the datum'), '100');
    await page.getByRole('button', { name: 'Stand on Sheds' }).click();
  });
  await page.keyboard.press('Escape');
  expect(shareThatDiffers(before, await picturePixels(page, 1), 24)).toBeGreaterThan(0.005);
  await page.reload();
  expect(worstDifference(before, await picturePixels(page, 1))).toBe(0);
});
