import type { Locator, Page } from '@playwright/test';
import { expect, test } from './app-server.ts';
import { jettyPainting } from './painting.ts';
import { artFile, artRow, currentFrame, depthOf, makeShot, picturePixels, saved, standRow } from './steps.ts';

/** More than any screen has. */
const MOST_TABS = 200;

/** Goes on with Tab until something has the focus, as one does who has no mouse. */
async function tabTo(page: Page, goal: Locator): Promise<void> {
  for (let i = 0; i < MOST_TABS; i++) {
    if (await goal.evaluateAll((found) => found.some((element) => element === document.activeElement)))
      return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not lead to ${goal}`);
}

/** Goes to something and presses it. */
async function pressIt(page: Page, goal: Locator): Promise<void> {
  await tabTo(page, goal);
  await page.keyboard.press('Enter');
}

/** Finds a command or a thing by its words, and does or shows it. */
async function find(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.type(words);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

test('a shot is made, staged, moved and handed off without a mouse', async ({ page, app }) => {
  const button = (name: string) => page.getByRole('button', { name, exact: true });
  const step = (name: string) =>
    page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name, exact: true });
  await page.goto(app.url);
  await expect(button('New production')).toBeVisible();
  await pressIt(page, button('New production'));
  await expect(page.getByRole('dialog')).toBeVisible();
  // What is closed gives the focus back.
  await page.keyboard.press('Escape');
  await expect(button('New production')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.type('Without a mouse');
  await page.keyboard.press('Enter');
  const production = page.getByRole('region', { name: 'Without a mouse' });
  // However long the wall is, what comes next has the focus.
  await expect(production.getByRole('button', { name: 'New shot' })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.type('010 Jetty');
  await tabTo(page, page.getByLabel('Length', { exact: true }));
  await page.keyboard.type('24');
  await pressIt(page, button('Make shot'));
  await page.waitForURL(/\/art$/);

  const chooser = page.waitForEvent('filechooser');
  await pressIt(page, page.getByRole('button', { name: /Bring in/ }).first());
  await (await chooser).setFiles([artFile('jetty.ora', await jettyPainting())]);
  await expect(button('Put on the stage')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText('4 planes', { exact: true })).toBeVisible();

  // Chosen, renamed, put farther down the stack, hidden and shown.
  await tabTo(page, artRow(page, 'Near rail'));
  await page.keyboard.press('ArrowDown');
  await expect(artRow(page, 'Jetty')).toBeFocused();
  await page.keyboard.press('F2');
  await page.keyboard.type('Landing stage');
  await page.keyboard.press('Enter');
  await expect(artRow(page, 'Landing stage')).toBeVisible();
  await tabTo(page, artRow(page, 'Landing stage'));
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('h');
  await expect(button('Show Landing stage')).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await saved(page);

  // Depth by arrows and by number; all planes spread in a dock.
  await pressIt(page, step('Stage'));
  await picturePixels(page, 1);
  await tabTo(page, standRow(page, 'Sheds'));
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+ArrowDown');
  expect(await depthOf(page, 'Sheds')).toBeGreaterThan(100);
  await tabTo(page, page.getByRole('textbox', { name: 'Depth', exact: true }));
  await page.keyboard.type('480');
  await page.keyboard.press('Enter');
  expect(await depthOf(page, 'Sheds')).toBe(480);
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await page.keyboard.press('Control+a');
  await expect(page.getByRole('heading', { name: '4 planes' })).toBeVisible();
  await pressIt(page, button('Spread …'));
  await pressIt(page, button('Spread 4'));
  await saved(page);
  await find(page, 'Sheds');

  // Two keys of the pan, one of them moved, its ease shaped by a handle, its curve by a key.
  await pressIt(page, step('Move'));
  const pan = page.getByLabel('Pan E–W', { exact: true });
  await tabTo(page, pan);
  await page.keyboard.type('-40');
  await page.keyboard.press('Enter');
  await page.keyboard.press('End');
  await tabTo(page, pan);
  await page.keyboard.type('40');
  await page.keyboard.press('Enter');
  const key = (frame: number) =>
    page.getByRole('button', { name: `Pan E–W key at frame ${frame}`, exact: true });
  await expect(key(24)).toBeVisible();
  await page.keyboard.press('Home');
  // One stop for all buttons and keys of the strip: fold, then down to the pan, along its row to its keys.
  const toFirstKey = async () => {
    await tabTo(page, page.getByTestId('strip-rows').locator('[data-roving]'));
    for (const arrow of ['ArrowDown', 'ArrowRight', 'ArrowRight']) await page.keyboard.press(arrow);
    await expect(key(1)).toBeFocused();
  };
  await toFirstKey();
  await page.keyboard.press('ArrowRight');
  await expect(key(24)).toBeFocused();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(key(23)).toBeVisible();
  await toFirstKey();
  await page.keyboard.press('Enter');
  await expect(key(1)).toHaveAttribute('aria-pressed', 'true');
  await pressIt(page, button('Shape …'));
  const handle = page.getByRole('slider', { name: 'Handle at the start' });
  const shape = await handle.getAttribute('aria-valuetext');
  await tabTo(page, handle);
  await page.keyboard.press('ArrowUp');
  await expect(handle).not.toHaveAttribute('aria-valuetext', shape ?? '');
  await page.keyboard.press('Escape');
  await pressIt(page, button('Play'));
  await page.keyboard.press('Enter');
  await page.keyboard.press('Home');
  await expect(currentFrame(page)).toHaveText('1');
  await saved(page);

  // Handed off, and watched to its end.
  await pressIt(page, step('Hand-off'));
  await tabTo(page, page.getByRole('radio', { name: /PNG frames/ }));
  await pressIt(page, page.getByRole('button', { name: /^Hand off/ }));
  await expect(page.getByRole('link', { name: /Download/ }).first()).toBeVisible();
});

test('a dialog that a menu opened gives the focus back to the menu’s button', async ({ page, app }) => {
  await makeShot(page, app.url, 'Menus');
  await page.goto(app.url);
  const more = page.getByRole('button', { name: 'More for Menus', exact: true });
  await more.focus();
  await page.keyboard.press('Enter');
  const items = page.getByRole('menuitem');
  await expect(items.first()).toBeFocused();
  for (const item of [1, 2, 3]) {
    await page.keyboard.press('ArrowDown');
    await expect(items.nth(item)).toBeFocused();
  }
  await expect(items.nth(3)).toHaveText('Give its set-up to …');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(more).toBeFocused();
});
