import { accessFaults } from './accessibility.ts';
import { expect, test } from './app-server.ts';
import {
  fillNumber,
  goToStep,
  lightRow,
  makeShot,
  makeShotByDialogs,
  picturePixels,
  saved,
  standRow,
  worstDifference,
} from './steps.ts';

test.use({ demo: true });

test('the demo stands on the wall with its picture, and opens on a stage of ten planes', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  const demo = page.getByRole('region', { name: 'Salt Lanterns' });
  await expect(demo.locator('img')).toHaveCount(4);
  const picture = demo.locator('img').first();
  await expect.poll(() => picture.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(640);
  await demo.getByRole('link', { name: 'Open 010 Quay at lamp-lighting' }).click();
  await expect(page.getByRole('list', { name: 'Planes, near to far' }).getByRole('listitem')).toHaveCount(11);
  const pixels = await picturePixels(page, 1);
  const greys = new Set<number>();
  for (let i = 0; i < pixels.length; i += 4096) greys.add(pixels[i] as number);
  expect(greys.size).toBeGreaterThan(40);
});

test('the third demo shot closes to the pixel: a frame past the last is the first', async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole('link', { name: 'Open 030 Mail cart along the sea wall' }).click();
  await goToStep(page, 'Stage');
  await expect(page.getByRole('button', { name: 'Loop closes' })).toBeVisible();
  const first = await picturePixels(page, 1);
  await goToStep(page, 'Move');
  await page.getByRole('button', { name: /^192 f/ }).click();
  await fillNumber(page.getByLabel('Length', { exact: true }), '193');
  await page.keyboard.press('Escape');
  await goToStep(page, 'Stage');
  await page.keyboard.press('End');
  expect(worstDifference(first, await picturePixels(page, 193))).toBe(0);
  await expect(page.getByRole('button', { name: 'Loop …' })).toBeVisible();
  await page.keyboard.press('Control+z');
});

test('pictures and counts of the wall never take all connections: what an artist asks for finds one free', async ({
  page,
  app,
}) => {
  const under = { picture: 0, counts: 0 };
  const most = { picture: 0, counts: 0 };
  const asked = { picture: 0, counts: 0 };
  await page.route(/\/api\/shots\/[^/]+\/(picture|survey\/counts)/, async (route) => {
    const kind = route.request().url().includes('/picture') ? 'picture' : 'counts';
    asked[kind] += 1;
    under[kind] += 1;
    most[kind] = Math.max(most[kind], under[kind]);
    const answer = await route.fetch();
    await new Promise((resolve) => setTimeout(resolve, 300));
    under[kind] -= 1;
    await route.fulfill({ response: answer });
  });
  await page.goto(app.url);
  const tiles = page.getByRole('region', { name: 'Salt Lanterns' }).getByRole('listitem');
  await expect(tiles).toHaveCount(4);
  await expect(page.getByText('Being drawn')).toHaveCount(0);
  await expect.poll(() => asked).toEqual({ picture: 4, counts: 4 });
  expect(most).toEqual({ picture: 2, counts: 2 });
  await page.unrouteAll({ behavior: 'wait' });
});

test('what stands below the shots stays where it is while their tiles are fetched', async ({ page, app }) => {
  await makeShot(page, app.url, 'Below');
  let bring = () => {};
  const held = new Promise<void>((resolve) => {
    bring = resolve;
  });
  await page.route(/movable-tiles/, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(app.url);
  const below = page.getByRole('heading', { name: 'Production of Below' });
  const before = (await below.boundingBox())!.y;
  await expect(page.getByRole('listitem')).toHaveCount(0);
  bring();
  await expect(page.getByRole('listitem')).toHaveCount(5);
  expect((await below.boundingBox())!.y).toBe(before);
});

test('productions and shots are made, renamed, deleted and brought back', async ({ page, app }) => {
  await makeShotByDialogs(page, app.url, 'Wall shot');
  await page.getByRole('link', { name: 'Keen Ridge, back to the wall' }).click();
  const production = page.getByRole('region', { name: 'Production of Wall shot', exact: true });
  await production.getByRole('button', { name: 'More for Wall shot', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByLabel('Name of the shot').fill('020 Tide turns');
  await page.keyboard.press('Enter');
  await expect(production.getByText('020 Tide turns')).toBeVisible();
  await production.getByRole('button', { name: 'More for 020 Tide turns' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(production.getByText('020 Tide turns')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(production.getByText('020 Tide turns')).toBeVisible();
  await production.getByRole('button', { name: 'More for Production of Wall shot' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(production).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(production).toBeVisible();
});

test('a shot needs a name and a rate that can be', async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole('region', { name: 'Salt Lanterns' }).getByRole('button', { name: 'New shot' }).click();
  await page.getByRole('button', { name: 'Make shot' }).click();
  await expect(page.getByRole('alert')).toHaveText('Give the shot a name.');
  await page.getByLabel('Name').fill('x');
  await page.getByLabel('Rate, frames a second').fill('fast');
  await page.getByRole('button', { name: 'Make shot' }).click();
  await expect(page.getByRole('alert')).toContainText('such as 24');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});

test('axe finds nothing serious on any screen or dock, and ? lists the keys', async ({ page, app }) => {
  // Every screen and dock is gone through.
  test.slow();
  const check = async (screen: string, within = 'body') => {
    expect({ screen, faults: await accessFaults(page, within) }).toEqual({ screen, faults: [] });
  };
  const checkDocks = async (names: readonly string[]) => {
    for (const name of names) {
      await page.getByRole('button', { name, exact: true }).click();
      await expect(page.getByTestId('dock')).toBeVisible();
      await check(`dock ${name}`, '[data-testid=dock]');
      await page.getByTestId('dock').getByRole('button', { name: /^Fold/ }).click();
    }
  };
  await page.goto(`${app.url}/help`);
  await check('help');
  await page.goto(app.url);
  await expect(page.getByRole('region', { name: 'Salt Lanterns' })).toBeVisible();
  await check('wall');
  await page.getByRole('link', { name: 'Open 010 Quay at lamp-lighting' }).click();
  await standRow(page, 'Quay houses').click();
  await check('stage');
  await checkDocks(['Spread …', 'Rock settings', 'Stand-in', 'History', 'View']);
  await goToStep(page, 'Move');
  await page.getByTestId('span-camera/panX-1').click();
  await check('move');
  await checkDocks(['Camera …', 'Track', 'Sway', 'Ride', 'Ghosts', 'Takes', 'History', 'View']);
  await goToStep(page, 'Look');
  await lightRow(page, 'Quay houses').click();
  await check('look');
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await check('dock Looks', '[data-testid=dock]');
  await goToStep(page, 'Hand-off');
  await expect(page.getByRole('button', { name: /Hand off/ })).toBeVisible();
  await check('hand-off');
  await goToStep(page, 'Art');
  await expect(page.getByText('11 planes')).toBeVisible();
  await check('art');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keyboard' })).toContainText('Play and stop');
  await check('keys');
});

test('a shot is duplicated, found, deleted and brought back from the bin', async ({ page, app }) => {
  await page.goto(app.url);
  const demo = page.getByRole('region', { name: 'Salt Lanterns' });
  await demo.getByRole('button', { name: 'More for 010 Quay at lamp-lighting' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate without its move' }).click();
  const copy = '010 Quay at lamp-lighting 2';
  await expect(demo.getByRole('link', { name: `Open ${copy}` })).toBeVisible();
  await page.getByLabel('Find a shot').fill('lamp');
  await expect(demo.getByRole('listitem')).toHaveCount(2);
  await demo.getByRole('link', { name: `Open ${copy}` }).click();
  await expect(page.getByRole('list', { name: 'Planes, near to far' }).getByRole('listitem')).toHaveCount(11);
  await goToStep(page, 'Move');
  await expect(page.getByTestId('span-camera/panX-1')).toHaveCount(0);
  await page.getByRole('link', { name: 'Keen Ridge, back to the wall' }).click();
  await demo.getByRole('button', { name: `More for ${copy}` }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(demo.getByRole('link', { name: `Open ${copy}` })).toHaveCount(0);
  await page.reload();
  await page.getByRole('button', { name: 'Bin', exact: true }).click();
  await page.getByRole('button', { name: `Bring back ${copy}` }).click();
  await expect(page.getByRole('list', { name: 'Deleted' }).getByRole('listitem')).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(demo.getByRole('link', { name: `Open ${copy}` })).toBeVisible();
  await demo.getByRole('button', { name: `More for ${copy}` }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(demo.locator('img')).toHaveCount(4);
});

test('several shots are chosen and deleted together; a set-up is dropped on another shot', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  const demo = page.getByRole('region', { name: 'Salt Lanterns' });
  const shot = (name: string) => demo.getByRole('link', { name: `Open ${name}` });
  await demo.getByRole('button', { name: 'More for 010 Quay at lamp-lighting' }).click();
  await page.getByRole('menuitem', { name: 'Duplicate without its move' }).click();
  const copy = '010 Quay at lamp-lighting 2';
  await expect(shot(copy)).toBeVisible();
  // Everything of the third shot instead: eleven planes where there were ten.
  await shot('030 Mail cart along the sea wall').dragTo(shot(copy));
  const give = page.getByRole('dialog', { name: 'Give the set-up of 030 Mail cart along the sea wall' });
  await expect(give.getByRole('combobox', { name: 'To' })).toContainText(copy);
  await give.getByRole('radio', { name: 'Everything, instead' }).click();
  await give.getByRole('button', { name: 'Give' }).click();
  await expect(page.getByText(`${copy} has the set-up of 030`)).toBeVisible();
  await expect(demo.getByText('192 f')).toHaveCount(2);
  await shot(copy).click();
  await page.waitForURL(/stage$/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('list', { name: 'Planes, near to far' }).getByRole('listitem')).toHaveCount(11);
  await saved(page);
  await page.getByRole('link', { name: 'Keen Ridge, back to the wall' }).click();
  await expect(demo.getByText('192 f')).toHaveCount(1);
  await demo.getByRole('button', { name: `More for ${copy}` }).click();
  await page.getByRole('menuitem', { name: 'Duplicate', exact: true }).click();
  const second = '010 Quay at lamp-lighting 3';
  await expect(shot(second)).toBeVisible();
  await shot(second).click({ modifiers: ['Control'] });
  await shot(copy).click({ modifiers: ['Shift'] });
  await expect(page.getByText('2 shots chosen')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByText('2 shots chosen')).toHaveCount(0);
  await demo.getByLabel(`Choose ${second}`).click();
  await demo.getByLabel(`Choose ${copy}`).click();
  await page.keyboard.press('Delete');
  await expect(demo.locator('img')).toHaveCount(4);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(demo.locator('img')).toHaveCount(6);
  await page.keyboard.press('Control+a');
  await expect(page.getByText(/shots chosen/)).toBeVisible();
  await page.getByRole('button', { name: 'Choose none' }).click();
  await demo.getByLabel(`Choose ${second}`).click();
  await demo.getByLabel(`Choose ${copy}`).click();
  await page.getByRole('region', { name: 'Chosen shots' }).getByRole('button', { name: 'Delete' }).click();
  await expect(demo.locator('img')).toHaveCount(4);
});
