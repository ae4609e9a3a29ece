import { expect, test } from './app-server.ts';
import { bar, dragBy, goToStep, standRow } from './steps.ts';

test.use({ demo: true });

test('the tour leads from the wall to hand-off, and waits for each thing to be done', async ({
  page,
  app,
}) => {
  await page.goto(app.url);
  await page.getByRole('button', { name: 'Tour', exact: true }).click();
  const card = page.getByRole('complementary', { name: 'Tour' });
  const stop = (number: number) => expect(card.getByText(`${number} / 9`)).toBeVisible();
  await stop(1);
  await standRow(page, 'Quay houses').click();
  await stop(2);
  await dragBy(page, bar(page, 'Quay houses'), 0, 30);
  await stop(3);
  await page.keyboard.press('Control+z');
  await stop(4);
  // Something else is no answer: the stop stays.
  await goToStep(page, 'Art');
  await stop(4);
  await goToStep(page, 'Move');
  await stop(5);
  await page.keyboard.press('End');
  await stop(6);
  await page.keyboard.press('Escape');
  await dragBy(page, page.getByTestId('picture'), -60, 0);
  await stop(7);
  await page.keyboard.press('Space');
  await stop(8);
  await page.keyboard.press('Space');
  await page.getByTestId('span-camera/panX-1').click();
  await page.getByRole('button', { name: 'Out', exact: true }).click();
  await stop(9);
  await goToStep(page, 'Hand-off');
  await expect(card.getByRole('heading', { name: 'That was the tour' })).toBeVisible();
  await card.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(card).toHaveCount(0);
});

test('the help is found by words, and leads back', async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole('link', { name: 'Help' }).click();
  await expect(page.getByRole('region', { name: 'Hand-off' })).toBeVisible();
  await page.getByLabel('Find in the help').fill('hold picture');
  await expect(page.getByRole('region', { name: 'Stage' })).toContainText('Hold picture');
  await expect(page.getByRole('region', { name: 'Hand-off' })).toHaveCount(0);
  await page.getByRole('link', { name: 'Keen Ridge, back to the wall' }).click();
  await expect(page.getByRole('region', { name: 'Salt Lanterns' })).toBeVisible();
});
