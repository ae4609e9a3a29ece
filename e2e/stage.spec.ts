import { expect, test } from './app-server.ts';
import {
  bar,
  choose,
  depthOf,
  dragBy,
  fillNumber,
  goToStep,
  jettyShot,
  panelTab,
  picturePixels,
  saved,
  shareThatDiffers,
  standRow,
  worstDifference,
} from './steps.ts';

test.beforeEach(async ({ page, app }, info) => {
  await jettyShot(page, app.url, `Stage ${info.title.slice(0, 30)}`);
  await expect(standRow(page, 'Sheds')).toBeVisible();
});

test('a plane truly shrinks with Hold picture off, and a drag out and back restores it', async ({ page }) => {
  const flat = await picturePixels(page, 1);
  await page.getByRole('button', { name: 'Hold picture' }).click();
  await standRow(page, 'Sheds').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '320');
  await panelTab(page, 'Place');
  await expect(page.getByLabel('Size', { exact: true })).toHaveValue('1');
  await page.keyboard.press('Escape');
  expect(shareThatDiffers(flat, await picturePixels(page, 1), 24)).toBeGreaterThan(0.02);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');
  expect(worstDifference(flat, await picturePixels(page, 1))).toBe(0);
  // The same setting is there after a reload.
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Hold picture' })).toHaveAttribute('aria-pressed', 'false');
});

test('one drag is one edit, and planes chosen together move together', async ({ page }) => {
  await standRow(page, 'Sheds').click();
  await standRow(page, 'Evening sky').click({ modifiers: ['Shift'] });
  await expect(page.getByRole('heading', { name: '2 planes' })).toBeVisible();
  // Shift takes all between, Ctrl one more or less.
  await standRow(page, 'Near rail').click({ modifiers: ['Shift'] });
  await expect(page.getByRole('heading', { name: '4 planes' })).toBeVisible();
  for (const name of ['Near rail', 'Jetty']) await standRow(page, name).click({ modifiers: ['Control'] });
  await expect(page.getByRole('heading', { name: '2 planes' })).toBeVisible();
  await dragBy(page, bar(page, 'Sheds'), 0, 120);
  const [sheds, sky] = [await depthOf(page, 'Sheds'), await depthOf(page, 'Evening sky')];
  expect(sheds).toBeGreaterThan(100);
  expect(sky).toBe(sheds);
  expect(await depthOf(page, 'Jetty')).toBe(0);
  await page.keyboard.press('Control+z');
  expect([await depthOf(page, 'Sheds'), await depthOf(page, 'Evening sky')]).toEqual([0, 0]);
  await page.keyboard.press('Control+y');
  expect(await depthOf(page, 'Sheds')).toBe(sheds);
});

test('everything by keyboard: nudge, hide, rename, delete', async ({ page }) => {
  await standRow(page, 'Evening sky').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowDown');
  expect(await depthOf(page, 'Evening sky')).toBe(3);
  await page.keyboard.press('Shift+ArrowDown');
  expect(await depthOf(page, 'Evening sky')).toBe(36);
  const shown = await picturePixels(page, 1);
  await standRow(page, 'Sheds').press('h');
  await expect(page.getByRole('button', { name: 'Show Sheds' })).toBeVisible();
  expect(shareThatDiffers(shown, await picturePixels(page, 1), 24)).toBeGreaterThan(0.02);
  await standRow(page, 'Sheds').press('h');
  await standRow(page, 'Sheds').press('F2');
  await page.getByLabel('Name of the plane').fill('Boat sheds');
  await page.keyboard.press('Enter');
  await standRow(page, 'Boat sheds').focus();
  await page.keyboard.press('Delete');
  await expect(standRow(page, 'Boat sheds')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(standRow(page, 'Boat sheds')).toBeVisible();
});

test('a click in the picture chooses the paint that is there', async ({ page }) => {
  await picturePixels(page, 1);
  const box = await page.getByTestId('picture').boundingBox();
  if (!box) throw new Error('no picture');
  // The middle of the frame shows a shed between the sky behind and the jetty below.
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(page.getByRole('heading', { name: 'Sheds' })).toBeVisible();
  await page.mouse.click(box.x + box.width * 0.7, box.y + box.height * 0.2);
  await expect(page.getByRole('heading', { name: 'Evening sky' })).toBeVisible();
});

test('numbers take arithmetic, say what is wrong, and opacity shows', async ({ page }) => {
  await standRow(page, 'Jetty').click();
  const depth = page.getByRole('textbox', { name: 'Depth', exact: true });
  await depth.fill('12 apples');
  await depth.press('Enter');
  await expect(page.getByRole('alert')).toContainText('This unit does not belong here');
  await depth.press('Escape');
  await expect(depth).toHaveValue('0');
  const before = await picturePixels(page, 1);
  await fillNumber(page.getByLabel('Opacity', { exact: true }), '100/4');
  await expect(page.getByLabel('Opacity', { exact: true })).toHaveValue('25');
  expect(shareThatDiffers(before, await picturePixels(page, 1), 8)).toBeGreaterThan(0.05);
});

test('a plane on the camera keeps its place through a pan', async ({ page }) => {
  await standRow(page, 'Near rail').click();
  const before = await picturePixels(page, 1);
  await choose(page, 'Mounted on', 'camera');
  expect(worstDifference(before, await picturePixels(page, 1))).toBe(0);
  await expect(page.getByText('Rides on the camera')).toBeVisible();
});

test('what draws the picture is there by the time that the shot has been read', async ({ page }) => {
  let answer = () => {};
  const held = new Promise<void>((resolve) => {
    answer = resolve;
  });
  await page.route(/\/api\/shots\/[^/]+\?/, async (route) => {
    await held;
    await route.continue();
  });
  const kernel = page.waitForRequest(/kernel.*\.wasm$/);
  await page.reload({ waitUntil: 'commit' });
  await kernel;
  await expect(page.getByText('Opening the shot …')).toBeVisible();
  answer();
  await expect(page.locator('[data-art=ready]')).toBeVisible();
});

test('any point of the history is looked at, kept as a take, and gone back to', async ({ page }) => {
  await standRow(page, 'Sheds').click();
  await panelTab(page, 'Depth');
  await fillNumber(page.getByLabel('Opacity', { exact: true }), '90');
  await saved(page);
  const first = await picturePixels(page, 1);
  await fillNumber(page.getByLabel('Opacity', { exact: true }), '30');
  await saved(page);
  await fillNumber(page.getByLabel('Opacity', { exact: true }), '0');
  await saved(page);
  const faint = await picturePixels(page, 1);
  expect(shareThatDiffers(first, faint, 8)).toBeGreaterThan(0.02);
  await page.getByRole('button', { name: 'History', exact: true }).click();
  const rows = page.getByRole('list', { name: 'What was done' }).getByRole('listitem');
  await expect(rows.first()).toContainText('Opacity of Sheds');
  await expect(rows.nth(2)).toContainText('Opacity of Sheds');
  await expect(rows.last()).toContainText('Before all of this');
  // Looking changes nothing: not the shot, and not what can be taken back.
  await rows.nth(2).getByRole('button').click();
  await expect(page.getByRole('button', { name: 'Go back to here' })).toBeVisible();
  await rows.nth(2).getByRole('button', { name: 'Keep as a take' }).click();
  await expect(page.getByText('Kept as a take')).toBeVisible();
  await expect(page.getByLabel('Opacity', { exact: true })).toHaveValue('0');
  await page.getByRole('button', { name: 'Go back to here' }).click();
  await expect(page.getByLabel('Opacity', { exact: true })).toHaveValue('90');
  await expect(rows.first()).toContainText('Going back to just after “Opacity of Sheds');
  await page.getByTestId('dock').getByRole('button', { name: 'Fold History' }).click();
  expect(worstDifference(first, await picturePixels(page, 1))).toBe(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Opacity', { exact: true })).toHaveValue('0');
  await goToStep(page, 'Move');
  await expect(page.getByRole('button', { name: 'Takes · 1' })).toBeVisible();
});

test('in a narrow window every number can be read, nothing lies over anything, and picture and strip have room', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1024, height: 700 });
  await standRow(page, 'Sheds').click();
  const region = page.getByRole('region', { name: 'Plane', exact: true });
  const fields = region.getByRole('textbox');
  for (const tab of ['Depth', 'Place', 'Run'] as const) {
    await panelTab(page, tab);
    await expect(region.getByRole('tabpanel')).toBeVisible();
    const cut = await fields.evaluateAll((inputs) =>
      inputs
        .filter((input) => input.scrollWidth > input.clientWidth || input.clientWidth < 30)
        .map((input) => input.getAttribute('aria-label') ?? input.id),
    );
    expect(cut, tab).toEqual([]);
    const boxes = await region.getByRole('tabpanel').evaluate((panel) => {
      const { right, bottom } = panel.getBoundingClientRect();
      const all = [...panel.querySelectorAll('input, button')].map((one) => one.getBoundingClientRect());
      return {
        outside: all.filter((box) => box.right > right + 1 || box.bottom > bottom + 1).length,
        over: all.filter((p, i) =>
          all.some(
            (q, j) =>
              j > i &&
              p.left < q.right - 1 &&
              q.left < p.right - 1 &&
              p.top < q.bottom - 1 &&
              q.top < p.bottom - 1,
          ),
        ).length,
      };
    });
    expect(boxes, tab).toEqual({ outside: 0, over: 0 });
  }
  // A dock goes beneath the picture, which keeps its width.
  await page.getByRole('button', { name: 'Pins', exact: true }).click();
  const [picture, dock] = await Promise.all(
    ['view-camera', 'dock'].map((id) => page.getByTestId(id).boundingBox()),
  );
  expect(picture!.width).toBeGreaterThan(500);
  expect(picture!.height).toBeGreaterThan(180);
  expect(dock!.y).toBeGreaterThanOrEqual(picture!.y + picture!.height);
  await goToStep(page, 'Look');
  await expect(page.getByTestId('dock')).toBeVisible();
  const lanes = await page.getByTestId('lanes').boundingBox();
  expect(lanes!.width).toBeGreaterThan(250);
});
