import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import {
  fillNumber,
  goToStep,
  jettyShot,
  lightRow,
  picturePixels,
  saved,
  standRow,
  worstDifference,
} from './steps.ts';

/** A shot of the jetty in depth, under a pan and a truck. */
async function movingJetty(page: Page, url: string, name: string, lengthFrames: number): Promise<void> {
  await jettyShot(page, url, name, { lengthFrames });
  await standRow(page, 'Sheds').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '240');
  await standRow(page, 'Evening sky').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '900');
  await goToStep(page, 'Move');
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '-20');
  await page.keyboard.press('Escape');
  await page.getByTestId('picture').click();
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '20');
  await fillNumber(page.getByLabel('Truck', { exact: true }), '30');
  await saved(page);
}

const row = (page: Page, kind: string) =>
  page.getByRole('region', { name: 'Hand-offs' }).getByRole('listitem').filter({ hasText: kind }).first();

/** The one frame of a film as ffmpeg decodes it, RGB. */
function frameOfFilm(path: string, index: number, widthPx: number, heightPx: number): Uint8Array {
  const run = spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      path,
      '-vf',
      `select=eq(n\\,${index})`,
      '-frames:v',
      '1',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgb24',
      '-',
    ],
    { maxBuffer: 2 ** 28 },
  );
  expect(run.stdout.length).toBe(widthPx * heightPx * 3);
  return new Uint8Array(run.stdout);
}

const rgb = async (png: Uint8Array): Promise<Uint8Array> =>
  new Uint8Array(await sharp(png).flatten({ background: '#000000' }).removeAlpha().raw().toBuffer());

async function stillOf(page: Page, frame: number, scale = 1): Promise<Uint8Array> {
  const shot = /shots\/([^/]+)/.exec(page.url())?.[1];
  const answer = await page.request.get(
    `${new URL(page.url()).origin}/api/shots/${shot}/still?frame=${frame}&format=png&scale=${scale}`,
  );
  return new Uint8Array(await answer.body());
}

test('a hand-off is queued, watched, left alone through a killed server, and found again', async ({
  page,
  app,
  context,
}, info) => {
  await movingJetty(page, app.url, 'Jetty', 240);
  const address = page.url();
  await goToStep(page, 'Hand-off');
  await page.getByRole('radio', { name: '200 %' }).click();
  await page.getByRole('radio', { name: /Lossless film/ }).click();
  await page.getByRole('button', { name: 'Hand off 240 frames' }).click();
  await page.getByRole('radio', { name: /PNG frames/ }).click();
  await page.getByLabel('Last frame').fill('30');
  await page.getByLabel('Last frame').press('Enter');
  await page.getByLabel('Names of the files').fill('{shot}/{take}_{frame:5}');
  await page.getByLabel('Take', { exact: true }).fill('B');
  await page.getByLabel('Counting from').fill('1001');
  await page.getByLabel('Counting from').press('Enter');
  await expect(page.getByText('Jetty/B_01001.png')).toBeVisible();
  await page.getByRole('button', { name: 'Hand off 30 frames' }).click();
  await expect(row(page, 'Lossless film').getByRole('progressbar')).toBeVisible();
  // Listed is taken on: what was only clicked may still be on its way.
  await expect(row(page, 'PNG frames')).toBeVisible();

  // The artist goes away, and the server dies meanwhile.
  await page.close();
  await app.kill();
  await app.start();
  const again = await context.newPage();
  await again.goto(`${app.url}${new URL(address).pathname}`);
  await goToStep(again, 'Hand-off');
  await expect(row(again, 'Lossless film').getByRole('link', { name: 'Download' })).toBeVisible({
    timeout: 90_000,
  });
  await expect(row(again, 'PNG frames').getByRole('link', { name: 'Download' })).toBeVisible();

  const film = info.outputPath('film.mkv');
  const filmDownload = again.waitForEvent('download');
  await row(again, 'Lossless film').getByRole('link', { name: 'Download' }).click();
  await (await filmDownload).saveAs(film);
  const zipDownload = again.waitForEvent('download');
  await row(again, 'PNG frames').getByRole('link', { name: 'Download' }).click();
  const frames = unzipSync(new Uint8Array(readFileSync(await (await zipDownload).path())));
  expect(Object.keys(frames)).toHaveLength(30);
  const one = frames['Jetty/B_01012.png']!;
  // Frame 12 from the zip, from the film by ffmpeg, and as a still: the same to the bit.
  const wanted = await rgb(await stillOf(again, 12, 2));
  expect(Buffer.from(await rgb(one))).toEqual(Buffer.from(wanted));
  expect(Buffer.from(frameOfFilm(film, 11, 640, 360))).toEqual(Buffer.from(wanted));

  // Nothing has changed since: nothing is rendered again.
  await again.getByRole('radio', { name: /PNG frames/ }).click();
  await again.getByLabel('Last frame').fill('30');
  await again.getByLabel('Last frame').press('Enter');
  await again.getByRole('button', { name: 'Hand off 30 frames' }).click();
  await expect(row(again, 'PNG frames').getByText('nothing was rendered again')).toBeVisible();
});

test('air, lens, filter and grade are seen as they are handed off', async ({ page, app }) => {
  await movingJetty(page, app.url, 'Looks', 24);
  await goToStep(page, 'Look');
  await page.keyboard.press('Home');
  const plain = await picturePixels(page, 1);
  await lightRow(page, 'Sheds').click();
  const dock = page.getByTestId('dock');
  const number = (label: string, value: string) =>
    fillNumber(dock.getByRole('textbox', { name: label, exact: true }), value);
  await number('Saturation', '30');
  await number('Blur', '12');
  await number('Soft edge', '20');
  await dock.getByRole('button', { name: 'Add air' }).click();
  await number('Iris, across', '40');
  await number('Vignette', '35');
  await number('Glow', '25');
  await saved(page);
  await expect(lightRow(page, 'Evening sky')).toHaveAccessibleName(/%$/);
  // The picture shows the frame alone, at its own size: what the server renders is the same to the bit.
  await page.getByRole('button', { name: '100 %', exact: true }).click();
  const canvas = page.getByTestId('picture');
  const looked = await picturePixels(page, 1);
  expect(looked.length === plain.length && worstDifference(plain, looked) === 0).toBe(false);
  const place = await canvas.evaluate((c: HTMLCanvasElement) => ({ width: c.width, height: c.height }));
  const still = await sharp(await stillOf(page, 1))
    .ensureAlpha()
    .raw()
    .toBuffer();
  // At 1:1 the middle of the picture is the middle of the frame, px on px.
  const [left, top] = [-Math.round(place.width / 2 - 160), -Math.round(place.height / 2 - 90)];
  let worst = 0;
  for (let y = 0; y < 180; y++)
    for (let x = 0; x < 320; x++) {
      const [p, q] = [((y - top) * place.width + x - left) * 4, (y * 320 + x) * 4];
      for (let c = 0; c < 3; c++) worst = Math.max(worst, Math.abs(looked[p + c]! - still[q + c]!));
    }
  // Dithering follows the rows of the picture, not of the frame: one level at most.
  expect(worst).toBeLessThanOrEqual(2);
});

test('a quick film is made in the page, and plays at the right rate with the right tags', async ({
  page,
  app,
}, info) => {
  await movingJetty(page, app.url, 'Quick', 48);
  await goToStep(page, 'Hand-off');
  // Cancelled as soon as it can be: the film may be done before a pointer gets there.
  const cancelled = page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const watch = new MutationObserver(() => {
          const cancel = [...document.querySelectorAll('button')].find(
            ({ textContent }) => textContent === 'Cancel',
          );
          if (!cancel) return;
          watch.disconnect();
          cancel.click();
          resolve();
        });
        watch.observe(document.body, { subtree: true, childList: true });
      }),
  );
  await page.getByRole('button', { name: 'Make a quick film' }).click();
  await cancelled;
  await page.getByRole('button', { name: 'Make a quick film' }).click();
  await expect(page.getByRole('progressbar', { name: 'Frames of the quick film' })).toBeVisible();
  const save = page.getByRole('link', { name: /^Save .*_quick/ });
  await expect(save).toBeVisible({ timeout: 110_000 });
  const download = page.waitForEvent('download');
  await save.click();
  const path = info.outputPath('quick.mp4');
  await (await download).saveAs(path);
  const entries = 'stream=codec_name,nb_read_frames,r_frame_rate,color_space,color_range,width,height';
  const probe = spawnSync(
    'ffprobe',
    ['-v', 'error', '-count_frames', '-show_entries', entries, '-of', 'json', path],
    {
      encoding: 'utf8',
    },
  );
  const [stream] = JSON.parse(probe.stdout).streams;
  expect(stream).toMatchObject({ r_frame_rate: '24/1', color_space: 'bt709', color_range: 'tv' });
  const wanted = await rgb(await stillOf(page, 10));
  const shown = frameOfFilm(path, 9, stream.width, stream.height);
  let squares = 0;
  for (let i = 0; i < wanted.length; i++) squares += (wanted[i]! - shown[i]!) ** 2;
  expect(10 * Math.log10(255 ** 2 / (squares / wanted.length))).toBeGreaterThan(28);
});

test('a page that may not share memory shows the same picture', async ({ page, app }) => {
  await movingJetty(page, app.url, 'Alone', 24);
  await goToStep(page, 'Stage');
  await page.keyboard.press('Home');
  const shared = await picturePixels(page, 1);
  await page.route('**/*', async (route) => {
    if (route.request().resourceType() !== 'document') return route.fallback();
    const response = await route.fetch();
    const {
      'cross-origin-opener-policy': _o,
      'cross-origin-embedder-policy': _e,
      ...headers
    } = response.headers();
    return route.fulfill({ response, headers });
  });
  await page.reload();
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(false);
  expect(worstDifference(shared, await picturePixels(page, 1))).toBe(0);
});
