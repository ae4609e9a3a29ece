import type { Browser, BrowserContext, Page } from '@playwright/test';
import { expect, test } from './app-server.ts';
import { bar, fillNumber, goToStep, holdEdits, jettyShot, picturePixels, saved, standRow } from './steps.ts';

/** Another artist at another machine: a browser that shares nothing with the first. */
async function another(
  browser: Browser,
  address: string,
  name: string,
): Promise<{ page: Page; context: BrowserContext }> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(address);
  await page
    .getByRole('banner')
    .getByRole('button', { name: /^Artist / })
    .click();
  await page.getByLabel('Your name, beside your edits').fill(name);
  await page.getByLabel('Your name, beside your edits').press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('banner').getByRole('button', { name })).toBeVisible();
  return { page, context };
}

async function staged(page: Page, url: string, name: string): Promise<void> {
  await jettyShot(page, url, name);
}

const depthOf = async (page: Page, name: string): Promise<string | null> =>
  standRow(page, name).getAttribute('aria-label');
const middle = async (page: Page, name: string) => {
  const box = (await bar(page, name).boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
};
const setDepth = async (page: Page, name: string, depth: string) => {
  await standRow(page, name).click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), depth);
};

test('two artists drag different planes at once: nothing is lost, and neither sees a notice', async ({
  page,
  app,
  browser,
}) => {
  await staged(page, app.url, 'Together');
  await setDepth(page, 'Jetty', '150');
  await setDepth(page, 'Sheds', '900');
  await saved(page);
  const other = await another(browser, page.url(), 'Ines');
  const [mine, theirs] = [await middle(page, 'Jetty'), await middle(other.page, 'Sheds')];
  // Both are down at once, and each is let go after the other has moved.
  await page.mouse.move(mine.x, mine.y);
  await other.page.mouse.move(theirs.x, theirs.y);
  await page.mouse.down();
  await other.page.mouse.down();
  for (let i = 1; i <= 5; i++) {
    await page.mouse.move(mine.x, mine.y + 8 * i);
    await other.page.mouse.move(theirs.x, theirs.y - 6 * i);
  }
  await other.page.mouse.up();
  await saved(other.page);
  const sheds = await depthOf(other.page, 'Sheds');
  // The other's edit is seen while this drag goes on, and stays when it ends.
  await expect.poll(() => depthOf(page, 'Sheds')).toBe(sheds);
  await page.mouse.move(mine.x, mine.y + 60);
  await page.mouse.up();
  await saved(page);
  const jetty = await depthOf(page, 'Jetty');
  expect([sheds, jetty]).not.toContain('Sheds, depth 900 px');
  expect([sheds, jetty]).not.toContain('Jetty, depth 150 px');
  await expect.poll(() => depthOf(other.page, 'Jetty')).toBe(jetty);
  expect(await depthOf(page, 'Sheds')).toBe(sheds);
  for (const window of [page, other.page]) await expect(window.getByRole('alert')).toHaveCount(0);
  // Each undoes what was one's own.
  await page.keyboard.press('Control+z');
  await expect(standRow(other.page, 'Jetty')).toHaveAccessibleName('Jetty, depth 150 px');
  expect(await depthOf(page, 'Sheds')).toBe(sheds);
  await other.context.close();
});

test('of two who change the same, the later is told by whom, and what was unsent is kept as a take', async ({
  page,
  app,
  browser,
}) => {
  await staged(page, app.url, 'The same plane');
  const other = await another(browser, page.url(), 'Ines');
  // The answer to the first edit is on its way for long: the second cannot know of it.
  const letThrough = await holdEdits(page);
  const told = page.getByRole('alert');
  await setDepth(page, 'Jetty', '222');
  await setDepth(other.page, 'Jetty', '111');
  await saved(other.page);
  letThrough();
  await expect(told).toContainText('Your edit (depth of Jetty) could not be kept: Ines has changed the same');
  await expect(standRow(page, 'Jetty')).toHaveAccessibleName('Jetty, depth 111 px');
  await expect(other.page.getByRole('alert')).toHaveCount(0);
  // Both are shown beside each other, and the lost one can be gone back to.
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.getByRole('slider', { name: /Unsent: depth of Jetty/ })).toBeVisible();
  await page.getByRole('button', { name: 'Understood' }).click();
  await expect(told).toHaveCount(0);
  await expect(page.getByRole('slider', { name: /Unsent: depth of Jetty/ })).toHaveCount(0);
  await goToStep(page, 'Move');
  await page.getByRole('button', { name: /^Takes/ }).click();
  const take = page.getByRole('listitem').filter({ hasText: 'Unsent: depth of Jetty' });
  await take.getByRole('button', { name: 'Go back' }).click();
  await saved(page);
  await goToStep(other.page, 'Stage');
  await expect(standRow(other.page, 'Jetty')).toHaveAccessibleName('Jetty, depth 222 px');
  // It was changed by somebody else since: one cannot take back what the other built on.
  await other.page.keyboard.press('Control+z');
  await expect(other.page.getByText(/is not possible: .* has changed the same since/)).toBeVisible();
  await other.context.close();
});

test('one who was offline for a while loses only what the other changed too', async ({
  page,
  app,
  browser,
}) => {
  await staged(page, app.url, 'Offline for a while');
  const other = await another(browser, page.url(), 'Ines');
  // All of its art is there: what cannot be fetched offline has a notice of its own.
  await picturePixels(other.page, 1);
  await other.context.setOffline(true);
  await setDepth(other.page, 'Sheds', '300');
  await setDepth(other.page, 'Jetty', '310');
  await setDepth(other.page, 'Sheds', '320');
  await expect(other.page.getByText('Offline: kept here')).toBeVisible();
  await setDepth(page, 'Jetty', '50');
  await saved(page);
  await other.context.setOffline(false);
  await saved(other.page);
  await expect(other.page.getByRole('alert').filter({ hasText: 'Not saved.' })).toContainText(
    'Your edit (depth of Jetty) could not be kept',
  );
  for (const window of [page, other.page]) {
    await expect(standRow(window, 'Sheds')).toHaveAccessibleName('Sheds, depth 320 px');
    await expect(standRow(window, 'Jetty')).toHaveAccessibleName('Jetty, depth 50 px');
  }
  await expect(page.getByRole('alert')).toHaveCount(0);
  await other.context.close();
});

test('an edit in one window is seen in another within half a second', async ({ page, app, context }) => {
  await staged(page, app.url, 'Pushed');
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(standRow(other, 'Jetty')).toHaveAccessibleName('Jetty, depth 0 px');
  await setDepth(page, 'Jetty', '70');
  await expect(standRow(other, 'Jetty')).toHaveAccessibleName('Jetty, depth 70 px');
  // The same artist at another window: what was done there is undone here.
  await other.bringToFront();
  await other.keyboard.press('Control+z');
  await expect(standRow(page, 'Jetty')).toHaveAccessibleName('Jetty, depth 0 px');
});

test('in a narrow window with others there, the name of the shot is seen whole, and the bar has one line', async ({
  page,
  app,
}) => {
  await staged(page, app.url, '010 Quay at lamp-lighting');
  await page.setViewportSize({ width: 1024, height: 700 });
  const others = page.getByRole('banner').getByRole('list', { name: 'Also in this shot' });
  for (const shown of ['', '+1', '+2']) {
    const window = await page.context().newPage();
    await window.goto(page.url());
    await expect(others).toContainText(shown === '' ? /^\p{L}/u : shown);
  }
  // Who is only counted is told on hovering.
  await expect(others.getByText('+2')).toHaveAttribute('title', /^Artist \w+, Artist \w+$/);
  const name = page.getByTestId('shot-name');
  await expect(name).toHaveText('010 Quay at lamp-lighting');
  // Of what there is too much, a fraction of a px is enough to cut the last letters off.
  const [seen, whole] = await name.evaluate((shown) => {
    const copy = shown.cloneNode(true) as HTMLElement;
    copy.className = 'narrow absolute whitespace-nowrap font-semibold';
    document.body.append(copy);
    const widths = [shown, copy].map((one) => one.getBoundingClientRect());
    const bar = shown.parentElement!.getBoundingClientRect();
    copy.remove();
    return [Math.min(widths[0]!.right, bar.right) - widths[0]!.left, widths[1]!.width];
  });
  expect(seen).toBeGreaterThanOrEqual(whole!);
  const tops = await page
    .getByTestId('stage-bar')
    .getByRole('button')
    .evaluateAll((buttons) => buttons.map((button) => Math.round(button.getBoundingClientRect().top)));
  expect(tops.length).toBeGreaterThan(8);
  expect(new Set(tops).size).toBe(1);
});
