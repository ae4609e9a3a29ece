import { spawnSync } from 'node:child_process';
import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import {
  artFile,
  bringIn,
  currentFrame,
  dragBy,
  goToStep,
  type inDock,
  land,
  makeShotByDialogs,
  picturePixels,
  standRow,
} from './steps.ts';

const WIDTH = 640;
const HEIGHT = 180;

/** From far to near: a ground that covers all, and things that stand before it, each with a paint of its own. */
const FAR_TO_NEAR = ['sky', 'moon', 'far hills', 'sea', 'mid town', 'quay', 'near boat', 'fg net'] as const;
const PAINTS = ['#20284a', '#ff0000', '#30405c', '#28505c', '#4a4660', '#5c4c3c', '#3c2c20', '#00ff00'];

const picture = async (index: number): Promise<Buffer> => {
  const paint = PAINTS[index];
  const top = 20 + 18 * index;
  const shape =
    index === 0
      ? `<rect width="${WIDTH}" height="${HEIGHT}" fill="${paint}"/>`
      : index === 1 || index === 7
        ? `<rect x="${280 + 6 * index}" y="${top}" width="24" height="12" fill="${paint}"/>`
        : `<rect y="${top}" width="${WIDTH}" height="${HEIGHT - top}" fill="${paint}"/>`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}">${shape}</svg>`;
  return sharp(Buffer.from(svg)).png().toBuffer();
};

/** How painters name the pictures of one painting; `i` counts from the far end. */
const HABITS: readonly (readonly [string, (word: string, i: number) => string])[] = [
  ['numbers from the back', (word, i) => `0${i + 1}_${word.replace(' ', '_')}`],
  ['numbers from the front', (word, i) => `harbour_${word.replace(' ', '-')}_${8 - i}`],
  ['numbers alone', (_, i) => `Layer ${i + 1}`],
  ['words alone', (word) => word],
];

/** Where a paint is in a picture: the mean column of its pixels, of `width`. */
function columnOf(
  rgb: Uint8Array,
  width: number,
  channels: number,
  is: (r: number, g: number, b: number) => boolean,
) {
  let sum = 0;
  let count = 0;
  for (let i = 0; i < rgb.length / channels; i++) {
    const [r, g, b] = [0, 1, 2].map((c) => rgb[i * channels + c] as number) as [number, number, number];
    if (!is(r, g, b)) continue;
    sum += i % width;
    count += 1;
  }
  expect(count).toBeGreaterThan(8);
  return sum / count;
}
const isRed = (r: number, g: number, b: number) => r > 170 && g < 90 && b < 90;
const isGreen = (r: number, g: number, b: number) => g > 170 && r < 90 && b < 90;

const frameOfFilm = (path: string, index: number): Uint8Array => {
  const asked = [
    '-vf',
    `select=eq(n\\,${index})`,
    '-frames:v',
    '1',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'rgb24',
    '-',
  ];
  const run = spawnSync('ffmpeg', ['-v', 'error', '-i', path, ...asked], { maxBuffer: 1 << 26 });
  expect(run.stderr.toString()).toBe('');
  return new Uint8Array(run.stdout);
};

test('eight pictures, named as painters name them, become a film with parallax without being put in order', async ({
  page,
  app,
}, info) => {
  const pictures = await Promise.all(FAR_TO_NEAR.map((_, i) => picture(i)));
  for (const [habit, name] of HABITS) {
    await makeShotByDialogs(page, app.url, habit);
    const files = pictures.map((png, i) => artFile(`${name(FAR_TO_NEAR[i] as string, i)}.png`, png));
    // As a folder hands them over: in no order.
    await bringIn(
      page,
      [3, 0, 7, 5, 1, 6, 2, 4].map((i) => files[i] as (typeof files)[number]),
    );
    const inOrder = page.getByRole('list', { name: 'Pictures in order' }).getByRole('listitem');
    await expect(inOrder).toHaveText(files.map((file) => file.name).toReversed());
    await land(page);
    await goToStep(page, 'Stage');
    await expect(page.getByRole('list', { name: 'Planes, near to far' }).getByRole('listitem')).toHaveCount(
      8,
    );
  }

  // On with the last of them: depth, a pan, a film.
  await inDockSpread(page);
  await expect(standRow(page, 'fg net')).not.toHaveAccessibleName(/depth 0 px/);
  await goToStep(page, 'Move');
  await page.keyboard.press('End');
  await expect(currentFrame(page)).toHaveText('24');
  await dragBy(page, page.getByTestId('picture'), -120, 0);
  // Frame 1 stays as it was: the camera has two keys.
  await expect(page.getByRole('button', { name: 'Pan E–W key at frame 1', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Pan E–W key at frame 24', exact: true })).toBeVisible();
  await page.keyboard.press('Home');
  await picturePixels(page, 1);

  await goToStep(page, 'Hand-off');
  await page.getByRole('radio', { name: /WebM film/ }).click();
  await page.getByRole('button', { name: 'Hand off 24 frames' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download', exact: true }).first().click();
  const film = info.outputPath('film.webm');
  await (await download).saveAs(film);
  const slid = (is: typeof isRed) =>
    columnOf(frameOfFilm(film, 0), 320, 3, is) - columnOf(frameOfFilm(film, 23), 320, 3, is);
  const [moon, net] = [slid(isRed), slid(isGreen)];
  expect(Math.abs(net)).toBeGreaterThan(30);
  // Spread's speeds: the nearest at 140 %, the moon near the far end at 12 % and more.
  expect(Math.abs(net) / Math.abs(moon)).toBeGreaterThan(4);
});

/** Spread as it is offered. */
async function inDockSpread(page: Parameters<typeof inDock>[0]): Promise<void> {
  await page.getByRole('button', { name: 'Spread …', exact: true }).click();
  await page.getByTestId('dock').getByRole('button', { name: 'Spread 8' }).click();
  await expect(page.getByTestId('dock')).toHaveCount(0);
}
