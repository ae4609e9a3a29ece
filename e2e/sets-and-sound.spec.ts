import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './app-server.ts';
import { jettyPainting } from './painting.ts';
import { artFile, fillNumber, goToStep, holdEdits, jettyShot, saved, standRow } from './steps.ts';

const dock = (page: Page) => page.getByTestId('dock');

test('a set is used in two shots: a depth that is set right in one is right in both, and one keeps its own copy', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'First');
  await standRow(page, 'Evening sky').click();
  await standRow(page, 'Sheds').click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Sets', exact: true }).click();
  await dock(page).getByLabel('Name of the set').fill('Jetty');
  await dock(page).getByRole('button', { name: 'Make a set of 2 planes' }).click();
  const set = dock(page).getByRole('region', { name: 'Jetty' });
  await expect(set).toContainText('2 follow here');
  await saved(page);
  const first = page.url();

  // A second shot of the same production uses it.
  await page.goto(app.url);
  const production = page.getByRole('region', { name: 'Production of First', exact: true });
  await production.getByRole('button', { name: 'New shot' }).click();
  await page.getByLabel('Name').fill('Second');
  await page.getByRole('button', { name: 'Make shot' }).click();
  await page.waitForURL(/\/art$/);
  await goToStep(page, 'Stage');
  await set.getByRole('button', { name: 'Use here' }).click();
  await expect(set).toContainText('2 follow here');
  await expect(set).toContainText('Also in First');
  await saved(page);
  const second = page.url();

  await page.goto(first);
  await standRow(page, 'Evening sky').click();
  const depth = page.getByRole('textbox', { name: 'Depth', exact: true });
  await fillNumber(depth, '480');
  await expect(set).toContainText('Own copies: Evening sky');
  // Undone, it follows again; made again, it is given to the set.
  await page.keyboard.press('Control+z');
  await expect(set).not.toContainText('Own copies');
  // Not before the server knows of it: it would have this shot follow its own change.
  const letThrough = await holdEdits(page);
  await page.keyboard.press('Control+Shift+z');
  await set.getByRole('button', { name: 'Give to the set …' }).click();
  await expect(set).toContainText('1 shot will change too: Second.');
  const give = set.getByRole('button', { name: 'Give to the set', exact: true });
  await expect(give).toBeDisabled();
  letThrough();
  await give.click();
  await expect(set.getByRole('status')).toContainText('1 shot followed.');
  await expect(set.getByRole('link', { name: 'Second' })).toBeVisible();
  await expect(set).toContainText('2 follow here');

  await page.goto(second);
  await standRow(page, 'Evening sky').click();
  await expect(depth).toHaveValue('+480');
  await fillNumber(depth, '200');
  await expect(set).toContainText('Own copies: Evening sky');
  await saved(page);

  // The second follows the sheds, but no longer the sky: of another sky it is not told as changing.
  await page.goto(first);
  await standRow(page, 'Evening sky').click();
  await fillNumber(depth, '300');
  await set.getByRole('button', { name: 'Give to the set …' }).click();
  await expect(set).toContainText('No other shot follows them.');
  await set.getByRole('button', { name: 'Cancel' }).click();
  await set.getByRole('button', { name: 'Follow again' }).click();
  await saved(page);

  await page.goto(second);
  await standRow(page, 'Evening sky').click();
  await set.getByRole('button', { name: 'Follow again' }).click();
  await expect(depth).toHaveValue('+480');
});

/** A WAV that is silent for half a second, and a tone for another half (RIFF, 16 bit, one channel). */
function toneWav(rate = 8000): Buffer {
  const samples = Int16Array.from({ length: rate }, (_, i) =>
    i < rate / 2 ? 0 : Math.round(16_000 * Math.sin((2 * Math.PI * 440 * i) / rate)),
  );
  const head = Buffer.from('RIFF____WAVEfmt ________________data____', 'latin1');
  const numbers: [number, number][] = [
    [4, 36 + samples.byteLength],
    [16, 16],
    [24, rate],
    [28, 2 * rate],
    [40, samples.byteLength],
  ];
  const whole = Buffer.concat([head, Buffer.alloc(4), Buffer.from(samples.buffer)]);
  for (const [at, value] of numbers) whole.writeUInt32LE(value, at);
  for (const [at, value] of [
    [20, 1],
    [22, 1],
    [32, 2],
    [34, 16],
  ] as const)
    whole.writeUInt16LE(value, at);
  whole.write('data', 36, 'latin1');
  return whole;
}

test('a sound is laid under the strip, dragged, muted, heard in the film, and the film in the reel', async ({
  page,
  app,
}) => {
  test.slow();
  await jettyShot(page, app.url, 'Heard', { step: 'Move' });
  await page.getByRole('button', { name: 'Sound …' }).click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose a file …' }).click();
  await (await chooser).setFiles({ name: 'waves.wav', mimeType: 'audio/wav', buffer: toneWav() });
  const lane = page.getByTestId('sound');
  await expect(lane).toHaveAttribute('data-ready', 'true');
  await page.keyboard.press('Escape');
  // The wave: nothing in the first half of the sound, a tone in the second.
  const inked = (from: number, to: number) =>
    lane.locator('canvas').evaluate(
      (canvas: HTMLCanvasElement, [a, b]) => {
        const context = canvas.getContext('2d')!;
        const { data } = context.getImageData(a! * canvas.width, 4, (b! - a!) * canvas.width, 6);
        return data.some((value) => value > 0);
      },
      [from, to],
    );
  await expect.poll(() => inked(0.55, 0.95)).toBe(true);
  expect(await inked(0.05, 0.45)).toBe(false);

  const box = (await lane.boundingBox())!;
  await page.mouse.move(box.x + 200, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + 200 - box.width / 4, box.y + 20, { steps: 4 });
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(lane).toHaveAccessibleName('waves.wav, begins at frame 1');
  await lane.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(lane).toHaveAccessibleName('waves.wav, begins at frame 4');
  await page.keyboard.press('Control+z');
  await expect(lane).toHaveAccessibleName('waves.wav, begins at frame 3');
  await page.getByRole('button', { name: 'Mute the sound' }).click();
  await page.getByRole('button', { name: 'Let the sound be heard' }).click();
  await saved(page);

  await goToStep(page, 'Hand-off');
  await page.getByRole('radio', { name: /WebM film/ }).click();
  await expect(page.getByRole('checkbox', { name: 'Sound' })).toBeChecked();
  await page.getByRole('button', { name: 'Hand off 24 frames' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  const film = page.getByRole('main').locator('video');
  await film.evaluate((video: HTMLVideoElement) => {
    if (video.readyState > 1) return;
    return new Promise((resolve) => video.addEventListener('loadeddata', resolve, { once: true }));
  });
  // What the browser has decoded of the sound, once it played.
  const heard = (video: HTMLVideoElement) =>
    (video as HTMLVideoElement & { webkitAudioDecodedByteCount: number }).webkitAudioDecodedByteCount;
  await expect.poll(() => film.evaluate(heard)).toBeGreaterThan(0);

  await page.goto(app.url);
  const production = page.getByRole('region', { name: 'Production of Heard', exact: true });
  await production.getByRole('button', { name: 'Play in order' }).click();
  // It plays by itself, and holds at its end: what was heard stays counted.
  await expect.poll(() => page.locator('video').evaluate(heard)).toBeGreaterThan(0);
});

test('a package that is dropped on an open shot is a shot beside it; frames of a hand-off are looked through', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'Opened', { step: 'Hand-off', lengthFrames: 6 });
  await page.getByRole('radio', { name: /PNG frames/ }).click();
  await page.getByRole('button', { name: 'Hand off 6 frames' }).click();
  const list = page.getByRole('region', { name: 'Hand-offs' });
  await list.getByRole('button', { name: 'Show' }).click();
  const shown = list.getByRole('img');
  await expect(shown).toHaveAttribute('alt', 'Opened_0001.png');
  await list.getByRole('slider', { name: 'Frame of the hand-off' }).press('End');
  await expect(shown).toHaveAttribute('alt', 'Opened_0006.png');
  await expect.poll(() => shown.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(320);

  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download the shot as an open package' }).click();
  const path = await (await download).path();
  await page.getByTestId('art-files').setInputFiles(artFile('Beside.zip', readFileSync(path)));
  await expect(page.getByText('Beside is a shot of this production.')).toBeVisible();
  await page.getByRole('button', { name: 'Open it' }).click();
  await expect(page.getByRole('banner')).toContainText('Beside');
  await expect(page.getByText('4 planes', { exact: true })).toBeVisible();
});

test('chosen shots are surveyed, get another rate, and the next version of their painting at once', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'One of two', { step: 'Art' });
  await page.goto(app.url);
  const row = page.getByRole('region', { name: 'Production of One of two', exact: true });
  await row.getByRole('link', { name: 'Open One of two' }).hover();
  // A menu that is longer than the window is scrolled within it: all of it can be reached.
  await page.setViewportSize({ width: 1280, height: 220 });
  await row.getByRole('button', { name: 'More for One of two', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Duplicate', exact: true }).click();
  await page.setViewportSize({ width: 1280, height: 800 });
  await expect(row.getByRole('link', { name: /^Open / })).toHaveCount(2);
  for (const link of await row.getByRole('link', { name: /^Open / }).all())
    await link.click({ modifiers: ['Control'] });
  const bar = page.getByRole('region', { name: 'Chosen shots' });
  const more = async (item: string) => {
    await bar.getByRole('button', { name: 'More for the chosen shots' }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  await more('Survey them …');
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText(/nothing open|open finding/)).toHaveCount(2);
  await page.keyboard.press('Escape');

  await more('Rate and size …');
  await dialog.getByRole('checkbox', { name: 'Another rate' }).click();
  await dialog.getByLabel('Frames a second').fill('12');
  await dialog.getByRole('button', { name: 'Change them' }).click();
  await expect(page.getByText('2 shots changed.')).toBeVisible();
  await expect(row.getByText(/12 f/)).toHaveCount(2);

  await bar.getByLabel('Next version of art …').setInputFiles(artFile('jetty.ora', await jettyPainting()));
  // The same painting once more is no other version.
  await expect(page.getByText(/Nothing to change in/)).toBeVisible();

  const sheet = page.waitForEvent('download');
  await row.getByRole('button', { name: /^More for Production of/ }).click();
  await page.getByRole('menuitem', { name: 'Contact sheet …' }).click();
  expect((await sheet).suggestedFilename()).toBe('Production_of_One_of_two_contact-sheet.png');
});
