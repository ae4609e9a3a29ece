import { expect, test } from './app-server.ts';
import {
  depthOf,
  dragBy,
  fillNumber,
  goToStep,
  inDock,
  jettyShot,
  onScreen,
  panelTab,
  picturePixels,
  saved,
  shareThatDiffers,
  standRow,
  worstDifference,
} from './steps.ts';

test.beforeEach(async ({ page, app }, info) => {
  await jettyShot(page, app.url, `Runs ${info.title.slice(0, 30)}`);
  await expect(standRow(page, 'Sheds')).toBeVisible();
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
  // 24 frames at 37 px pass 888 of 960 px: 0.925 of a turn; at half the speed half of that, which may stand still.
  await expect(report.getByText('−0.925× → −1× (+8.11 %)')).toHaveCount(2);
  await expect(report.getByText('−0.463× → stands still')).toBeVisible();
  await expect(
    report.getByText('At most 8.11 %, 1 stands still. Or another length of the shot:'),
  ).toBeVisible();
  // A faster world lets the far strip run too: one turn is at most a twentieth more than 0.463 · 2.06.
  await report.getByRole('button', { name: /^−76\.\d+ px a frame · [45]\.\d+ %$/ }).click();
  await expect(report.getByText('Frame 25 is frame 1 again.')).toBeVisible();
  await expect(report.getByText('−1×', { exact: true })).toHaveCount(1);
  await expect(report.getByText('−2×', { exact: true })).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(report.getByText('−0.463× → stands still')).toBeVisible();
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
