import type { Browser, Page } from '@playwright/test';
import { expect, test } from './app-server.ts';
import { fillNumber, goToStep, importJetty, makeShotByDialogs, saved, standRow } from './steps.ts';

test.use({ signIn: true });

const PASSWORD = 'a long word for tests';

async function signIn(page: Page, name: string, password = PASSWORD): Promise<void> {
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Password').fill(password);
  await page.keyboard.press('Enter');
}

async function another(browser: Browser, url: string, name: string): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await page.goto(url);
  await signIn(page, name);
  await expect(page.getByRole('banner').getByRole('button', { name })).toBeVisible();
  return page;
}

/** An administrator's own page, with a staged shot of a production in which nobody else has a role yet. */
async function adminsShot(page: Page, url: string, name: string): Promise<void> {
  await page.goto(url);
  await signIn(page, 'Ada');
  await expect(page.getByRole('banner').getByRole('button', { name: 'Ada' })).toBeVisible();
  await makeShotByDialogs(page, url, name);
  await importJetty(page);
  await saved(page);
  await goToStep(page, 'Stage');
}

test.beforeAll(({ app }) => {
  app.keen(['user', 'add', 'Ada', '--administrator'], PASSWORD);
});

test('nobody gets in without a name and a password; an administrator lets others in', async ({
  page,
  app,
  browser,
}) => {
  await page.goto(app.url);
  await expect(page.getByRole('heading', { name: 'Keen Ridge' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'New production' })).toHaveCount(0);
  await signIn(page, 'Ada', 'not the password');
  await expect(page.getByRole('alert')).toHaveText('There is nobody of this name and password.');
  await adminsShot(page, app.url, 'Let in');
  // People, and who may see the production.
  await page.getByRole('banner').getByRole('button', { name: 'Ada' }).click();
  await page.getByRole('button', { name: 'People …' }).click();
  const people = page.getByRole('dialog', { name: 'People of this server' });
  for (const name of ['Bo Berg', 'Cleo']) {
    await people.getByLabel('Name').fill(name);
    await people.getByLabel('Password').fill(PASSWORD);
    await people.getByRole('button', { name: 'Add' }).click();
    await expect(people.getByRole('listitem').filter({ hasText: name })).toBeVisible();
  }
  await people.getByRole('button', { name: 'Close' }).click();
  const shotUrl = page.url();
  const bo = await another(browser, app.url, 'Bo Berg');
  await expect(bo.getByText('No production yet')).toBeVisible();
  await bo.goto(shotUrl);
  await expect(bo.getByText('This shot does not exist or was deleted.')).toBeVisible();

  await page.goto(app.url);
  await page.getByRole('button', { name: 'More for Production of Let in' }).click();
  await page.getByRole('menuitem', { name: 'Who may see it …' }).click();
  const members = page.getByRole('dialog', { name: /^Who may see/ });
  await members.getByLabel('Name').fill('bo berg');
  await members.getByRole('button', { name: 'Let in' }).click();
  await expect(members.getByRole('combobox', { name: 'Role of Bo Berg' })).toHaveText('Work');
  await members.getByLabel('Name').fill('Cleo');
  await members.getByRole('combobox', { name: 'Role', exact: true }).click();
  await page.getByRole('option', { name: 'Look' }).click();
  await members.getByRole('button', { name: 'Let in' }).click();
  await expect(members.getByRole('combobox', { name: 'Role of Cleo' })).toHaveText('Look');

  // Bo works: whose edit it is stands in the history, and where he is is seen.
  await page.goto(shotUrl);
  await bo.goto(shotUrl);
  await standRow(bo, 'Jetty').click();
  await fillNumber(bo.getByRole('textbox', { name: 'Depth', exact: true }), '777');
  await saved(bo);
  await expect(standRow(page, 'Jetty')).toHaveAttribute('aria-label', /777/);
  const here = page.getByRole('list', { name: 'Also in this shot' });
  await expect(here.getByRole('img', { name: 'Bo Berg is on “Jetty”' })).toBeVisible();
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByText('Bo Berg').first()).toBeVisible();

  // Cleo looks on: nothing that she tries changes the shot.
  const cleo = await another(browser, app.url, 'Cleo');
  await cleo.goto(shotUrl);
  await expect(cleo.getByText('You look on')).toBeVisible();
  await standRow(cleo, 'Jetty').click();
  await cleo.keyboard.press('Delete');
  await expect(cleo.getByText('You may look at this shot, but not change it.')).toBeVisible();
  await expect(standRow(cleo, 'Jetty')).toBeVisible();

  // Who leaves is no longer shown.
  await bo.goto(app.url);
  await expect(here.getByRole('img', { name: /Bo Berg/ })).toHaveCount(0);
});

test('a session that ends while one works loses nothing: it is saved once one has signed in again', async ({
  page,
  app,
}) => {
  await adminsShot(page, app.url, 'Ended');
  await standRow(page, 'Jetty').click();
  const depth = page.getByRole('textbox', { name: 'Depth', exact: true });
  await fillNumber(depth, '300');
  await saved(page);
  // As an administrator does who gives a new password.
  app.keen(['user', 'password', 'Ada'], 'another long word for tests');
  await fillNumber(depth, '500');
  const again = page.getByRole('dialog', { name: 'Sign in again' });
  await expect(again).toBeVisible();
  // Nobody else sends what Ada has made.
  await expect(again.getByLabel('Name')).not.toBeEditable();
  await again.getByLabel('Password').fill('another long word for tests');
  await page.keyboard.press('Enter');
  await expect(again).toHaveCount(0);
  await saved(page);
  await page.reload();
  await expect(standRow(page, 'Jetty')).toHaveAttribute('aria-label', /500/);
  // Signing out leaves nothing open, and going back shows nothing.
  await page.getByRole('banner').getByRole('button', { name: 'Ada' }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await page.goBack();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  app.keen(['user', 'password', 'Ada'], PASSWORD);
});
