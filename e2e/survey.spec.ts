import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { accessFaults } from './accessibility.ts';
import { expect, test } from './app-server.ts';
import { currentFrame, depthOf, goToStep, saved } from './steps.ts';

test.use({ demo: true });

const findings = (page: Page) => page.getByRole('list', { name: 'Findings' }).getByRole('article');
const cures = (page: Page) => page.getByRole('group', { name: 'Cures' });

/** Opens a demo shot on its survey and waits until every frame was looked at. */
async function surveyOf(page: Page, url: string, shot: string): Promise<void> {
  await page.goto(url);
  await page.getByRole('link', { name: `Open ${shot}` }).click();
  await goToStep(page, 'Survey');
  await surveyed(page);
}

async function surveyed(page: Page): Promise<void> {
  await expect(
    page.getByRole('region', { name: 'What would go wrong' }).getByText(/^\d+ f · [\d.]+ s$/),
  ).toBeVisible();
  await expect(page.locator('[data-old="false"]')).toBeVisible();
}

const openCount = async (page: Page): Promise<number> =>
  Number(/\d+/.exec((await page.getByRole('button', { name: /^Open \d/ }).textContent()) ?? '')?.[0]);

test('a shot of which everything was looked at has nothing open, and says so', async ({ page, app }) => {
  await surveyOf(page, app.url, '010 Quay at lamp-lighting');
  await expect(page.getByText('Nothing would go wrong')).toBeVisible();
  expect(await openCount(page)).toBe(0);
  await page.getByRole('button', { name: /^All \d/ }).click();
  await expect(page.getByText(/Left so: “afloat/)).toBeVisible();
  expect(await accessFaults(page)).toEqual([]);
});

test('an edit makes the answer old until the shot was looked at again; limits are the artist’s', async ({
  page,
  app,
}) => {
  await surveyOf(page, app.url, '040 Net loft, rain coming');
  const before = await openCount(page);
  await page.getByRole('button', { name: 'What counts as wrong …' }).click();
  await page.getByLabel('Planes slide apart over').fill('60');
  await page.getByLabel('Planes slide apart over').press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('finding-slip')).toHaveCount(0);
  expect(await openCount(page)).toBe(before - 1);
  // They are the production's, and survive a new page.
  await page.keyboard.press('Escape');
  await page.reload();
  await surveyed(page);
  await expect(page.getByTestId('finding-slip')).toHaveCount(0);
  await page.getByRole('button', { name: 'What counts as wrong …' }).click();
  await page.getByRole('button', { name: 'As usual' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('finding-slip')).toHaveCount(1);
  // Listed otherwise: only what the chosen planes have.
  await page.getByTestId('finding-edge').getByRole('button').first().click();
  await page.getByLabel('Of chosen planes').check();
  await expect(findings(page)).toHaveCount(1);
  await page.getByLabel('Of chosen planes').uncheck();
  await page.getByRole('radio', { name: 'Worst first' }).click();
  await expect(findings(page).first()).toHaveAttribute('data-testid', 'finding-reveal');
  await page.getByRole('radio', { name: 'By kind' }).click();
  // Left and come back to: its cures are looked for again.
  await expect(cures(page)).toHaveAttribute('aria-busy', 'false');
  await goToStep(page, 'Stage');
  await goToStep(page, 'Survey');
  await page.getByTestId('finding-edge').getByRole('button').first().click();
  await expect(cures(page).getByRole('button', { name: /^Size/ })).toBeVisible();
});

// Last of those that look at 040, which it mends.
test('every fault of a shot is found, tried against in the picture, cured or left so, and told at the hand-off', async ({
  page,
  app,
}) => {
  await surveyOf(page, app.url, '040 Net loft, rain coming');
  const kinds = ['edge', 'reveal', 'soft', 'pace', 'pace', 'slip'];
  await expect(findings(page)).toHaveCount(kinds.length);
  expect(await openCount(page)).toBe(kinds.length);
  await goToStep(page, 'Hand-off');
  await expect(page.getByText('6 open findings')).toBeVisible();
  await page.getByRole('link', { name: /in the survey/ }).click();
  await surveyed(page);

  // By keys: the first finding, its worst frame, the fault in the picture.
  await page.keyboard.press('ArrowDown');
  await expect(page.getByTestId('finding-edge').getByRole('button').first()).toBeFocused();
  await expect(page.getByTestId('finding-edge')).toContainText('Far headland runs out on the east');
  await expect(currentFrame(page)).toHaveText('67');
  await expect(page.getByTestId('fault')).toContainText('88 px, f 67');

  // Pointed at, a cure is only tried; clicked, it is one edit that can be taken back.
  await page.getByRole('radio', { name: 'On the art' }).click();
  await expect(page.getByTestId('missing')).toHaveAttribute('d', /M/);
  await expect(page.getByText('needs 88 px at the east')).toBeVisible();
  await page.getByRole('radio', { name: 'Through the camera' }).click();
  const size = cures(page).getByRole('button', { name: /^Size 1\d\d/ });
  await size.hover();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await page.getByRole('heading', { name: 'What would go wrong' }).hover();
  await size.click();
  await surveyed(page);
  await expect(page.getByTestId('finding-edge')).toHaveCount(0);
  await page.getByRole('heading', { name: 'What would go wrong' }).hover();
  await page.keyboard.press('Control+z');
  await surveyed(page);
  await expect(page.getByTestId('finding-edge')).toHaveCount(1);
  await page.keyboard.press('Control+Shift+z');
  await surveyed(page);
  await expect(page.getByTestId('finding-edge')).toHaveCount(0);

  await page.getByTestId('finding-slip').getByRole('button').first().click();
  await cures(page)
    .getByRole('button', { name: /^To the depth of Floor/ })
    .click();
  await surveyed(page);
  await expect(page.getByTestId('finding-slip')).toHaveCount(0);

  for (let left = await page.getByTestId('finding-pace').count(); left > 0; ) {
    await page.getByTestId('finding-pace').first().getByRole('button').first().click();
    await cures(page)
      .getByRole('button', { name: /frames longer$/ })
      .click();
    await surveyed(page);
    const now = await page.getByTestId('finding-pace').count();
    expect(now).toBeLessThan(left);
    left = now;
  }

  for (const [kind, note] of [
    ['soft', 'it is far enough in the dark'],
    ['reveal', 'to be painted once the wall is'],
  ] as const) {
    await page.getByTestId(`finding-${kind}`).getByRole('button').first().click();
    await page.getByRole('button', { name: 'Leave it so …' }).click();
    await page.getByLabel('Why it may stay').fill(note);
    await page.getByRole('button', { name: 'Leave it so', exact: true }).click();
    await expect(page.getByTestId(`finding-${kind}`)).toHaveCount(0);
  }
  await expect(page.getByText('Nothing would go wrong')).toBeVisible();
  await saved(page);
  await page.reload();
  await surveyed(page);
  expect(await openCount(page)).toBe(0);
  await page.getByRole('button', { name: /^All \d/ }).click();
  await expect(page.getByText('Left so: “to be painted once the wall is”')).toBeVisible();

  await page.getByRole('button', { name: 'Paint list …' }).click();
  const painting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  const list = readFileSync(await (await painting).path(), 'utf8').split('\r\n');
  expect(list.find((line) => line.startsWith('Lamplighter,'))).toMatch(/^Lamplighter,620,770,130,/);
  await page.keyboard.press('Escape');
  const report = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Report as PDF, with a picture each' }).click();
  expect(readFileSync(await (await report).path(), 'latin1').slice(0, 5)).toBe('%PDF-');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Findings as CSV' }).click();
  const csv = readFileSync(await (await download).path(), 'utf8').split('\r\n');
  expect(csv[0]).toContain('what,kind,state,first frame');
  expect(csv.filter((line) => line.includes(',left so,'))).toHaveLength(3);
});

test('Spread puts planes at the depths that their art is painted for', async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole('link', { name: 'Open 010 Quay at lamp-lighting' }).click();
  await page.waitForURL(/stage$/);
  const before = await depthOf(page, 'Quay ground');
  await page.getByRole('button', { name: 'Spread …' }).click();
  await page.getByRole('radio', { name: 'As painted' }).click();
  await expect(page.getByText(/^[1-9]\d* of 10 go to the depth/)).toBeVisible();
  await expect(async () => expect(await depthOf(page, 'Quay ground')).not.toBe(before)).toPass();
  await page.getByRole('button', { name: 'Spread 10' }).click();
  await saved(page);
  // Nothing runs out where everything stands as far as it is painted for.
  await goToStep(page, 'Survey');
  await surveyed(page);
  await expect(page.getByTestId('finding-edge')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await goToStep(page, 'Stage');
  await expect(async () => expect(await depthOf(page, 'Quay ground')).toBe(before)).toPass();
});
