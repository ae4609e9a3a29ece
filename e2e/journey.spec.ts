import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import { JETTY_NAMES } from './painting.ts';
import {
  bar,
  currentFrame,
  dragBy,
  fillNumber,
  goToStep,
  importJetty,
  makeShotByDialogs,
  panelTab,
  picturePixels,
  saved,
  shareThatDiffers,
  standRow,
  worstDifference,
} from './steps.ts';

test('from a layered painting to film, through a power cut', async ({ page, app }, info) => {
  await makeShotByDialogs(page, app.url, 'Journey');

  // Art: the layers come in with their names, in their order.
  await importJetty(page);
  for (const name of JETTY_NAMES) await expect(page.getByRole('button', { name, exact: true })).toBeVisible();
  await saved(page);

  // Stage: depth by dragging a bar, by typing, by speed; the picture holds all the while.
  await goToStep(page, 'Stage');
  const flat = await picturePixels(page, 1);
  await dragBy(page, bar(page, 'Evening sky'), 0, 260);
  await standRow(page, 'Sheds').click();
  await fillNumber(page.getByLabel('Speed', { exact: true }), '50');
  await expect(page.getByRole('textbox', { name: 'Depth', exact: true })).toHaveValue('+320');
  await panelTab(page, 'Place');
  await expect(page.getByLabel('Size', { exact: true })).toHaveValue('2');
  await panelTab(page, 'Depth');
  await standRow(page, 'Near rail').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '-320/4');
  await expect(standRow(page, 'Near rail')).toHaveAccessibleName('Near rail, depth −80 px');
  await expect(standRow(page, 'Evening sky')).not.toHaveAccessibleName(/depth 0 px/);
  const deep = await picturePixels(page, 1);
  // Re-scaled art is sampled anew: smooth areas stay, hard edges soften, nothing moves.
  expect(shareThatDiffers(flat, deep, 24)).toBeLessThan(0.01);
  await saved(page);

  // Move: a pan keyed by dragging the picture, a truck by typing, an ease by a button.
  await goToStep(page, 'Move');
  await page.getByRole('button', { name: 'Key Pan E–W at frame 1', exact: true }).click();
  await page.keyboard.press('End');
  await expect(currentFrame(page)).toHaveText('24');
  await dragBy(page, page.getByTestId('picture'), -120, 0);
  await expect(page.getByRole('button', { name: 'Pan E–W key at frame 24', exact: true })).toBeVisible();
  await fillNumber(page.getByLabel('Truck', { exact: true }), '40');
  await page.keyboard.press('Escape');
  await page.getByTestId('span-camera/panX-1').click();
  await expect(page.getByText('Ease of Pan E–W 1 → 24')).toBeVisible();
  await expect(page.getByRole('button', { name: 'In-out', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: 'Even', exact: true }).click();
  await saved(page);
  const last = await picturePixels(page, 24);
  expect(
    shareThatDiffers(
      last,
      await (async () => {
        await page.keyboard.press('Home');
        return picturePixels(page, 1);
      })(),
      24,
    ),
  ).toBeGreaterThan(0.03);

  // Play runs and loops; a key stops it.
  await page.keyboard.press('Space');
  await expect(currentFrame(page)).not.toHaveText('1');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();

  // Hand-off: frames and film.
  await goToStep(page, 'Hand-off');
  await page.getByRole('button', { name: 'Hand off 24 frames' }).click();
  await expect(page.getByText(/Journey_1-24\.zip/)).toBeVisible();
  const zipDownload = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download', exact: true }).first().click();
  const frames = unzipSync(new Uint8Array(readFileSync(await (await zipDownload).path())));
  expect(Object.keys(frames)).toHaveLength(24);
  const picture = await sharp(frames['Journey_0001.png']).metadata();
  expect([picture.width, picture.height]).toEqual([320, 180]);

  await page.getByRole('radio', { name: /WebM film/ }).click();
  await page.getByRole('button', { name: 'Hand off 24 frames' }).click();
  await expect(page.getByText(/Journey_1-24_vp9\.webm/)).toBeVisible();
  const filmDownload = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download', exact: true }).first().click();
  const film = info.outputPath('film.webm');
  await (await filmDownload).saveAs(film);
  const probe = spawnSync(
    'ffprobe',
    [
      '-v',
      'error',
      '-count_frames',
      '-show_entries',
      'stream=nb_read_frames,r_frame_rate,width,height',
      '-of',
      'json',
      film,
    ],
    { encoding: 'utf8' },
  );
  expect(JSON.parse(probe.stdout).streams[0]).toMatchObject({
    nb_read_frames: '24',
    r_frame_rate: '24/1',
    width: 320,
    height: 180,
  });

  // A power cut: what said Saved is there, and its history too.
  await goToStep(page, 'Move');
  await page.keyboard.press('End');
  const before = await picturePixels(page, 24);
  await app.kill();
  await app.start();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Truck key at frame 24', exact: true })).toBeVisible();
  await page.keyboard.press('End');
  expect(worstDifference(before, await picturePixels(page, 24))).toBe(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await page.getByTestId('span-camera/panX-1').click();
  await expect(page.getByRole('button', { name: 'In-out', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Pan E–W key at frame 24', exact: true })).toHaveCount(0);
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+Shift+z');
  await saved(page);
  expect(worstDifference(before, await picturePixels(page, 24))).toBe(0);
  await goToStep(page, 'Hand-off');
  await expect(page.getByRole('link', { name: 'Download', exact: true })).toHaveCount(2);
});
