import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from './app-server.ts';
import { fillNumber, goToStep, jettyShot, placeOf, saved, standRow } from './steps.ts';

const dock = (page: Page) => page.getByTestId('dock');

/** The words of a file that a link gives. */
async function downloaded(page: Page, name: string): Promise<{ name: string; bytes: Buffer }> {
  const download = page.waitForEvent('download');
  const link = page.getByRole('link', { name, exact: true });
  await link.or(page.getByRole('button', { name, exact: true })).click();
  const file = await download;
  return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) };
}

test('a pin that is put down, dragged and named is told in CSV on every frame, and undone', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'Pinned');
  await standRow(page, 'Evening sky').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '320');
  await page.getByRole('button', { name: 'Pins', exact: true }).click();
  await expect(dock(page)).toContainText('No pins yet.');
  await page.keyboard.press('p');
  const from = await placeOf(page, 0.25, 0.2);
  await page.mouse.click(from.x, from.y);
  const name = dock(page).getByLabel('Name of the pin');
  await expect(name).toHaveValue('Pin');
  // What ends is the putting down alone: the pin stays, and can be dragged.
  await page.keyboard.press('Escape');
  await name.fill('Star');
  await name.press('Enter');
  const to = await placeOf(page, 0.5, 0.25);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await expect(dock(page)).toContainText('160, 45');
  await goToStep(page, 'Move');
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '80');
  await saved(page);
  await goToStep(page, 'Hand-off');
  const { name: file, bytes } = await downloaded(page, 'CSV');
  expect(file).toBe('Pinned_stage-data.csv');
  const [head = '', ...lines] = bytes.toString().trimEnd().split('\r\n');
  const titles = head.split(',');
  const at = (line: string | undefined, title: string) => Number(line?.split(',')[titles.indexOf(title)]);
  expect(lines).toHaveLength(24);
  expect(at(lines[0], 'Evening sky pin Star x')).toBeCloseTo(160, 0);
  // Panned by 80 at the end; a plane twice as far as the datum goes half as far.
  expect(at(lines[0], 'Evening sky pin Star x') - at(lines[23], 'Evening sky pin Star x')).toBeCloseTo(40, 6);
  expect(at(lines[23], 'Evening sky pin Star y')).toBeCloseTo(45, 0);
  expect(at(lines[5], 'Evening sky distance')).toBe(640);

  const { bytes: json } = await downloaded(page, 'JSON');
  expect(JSON.parse(json.toString()).rows[23][0]).toBe(24);
  const { name: glb, bytes: model } = await downloaded(page, 'glTF (.glb)');
  expect([glb, model.subarray(0, 4).toString()]).toEqual(['Pinned.glb', 'glTF']);
  const { bytes: pdf } = await downloaded(page, 'Sheet (PDF)');
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');

  await goToStep(page, 'Stage');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect(dock(page)).toContainText('No pins yet.');
});

test('hand-offs are kept as presets, played in the page, asked for again, renamed and deleted', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'Reels', { step: 'Hand-off', lengthFrames: 8 });
  await fillNumber(page.getByLabel('Counting from'), '1001');
  await page.getByRole('radio', { name: /WebM film/ }).click();
  await page.getByRole('radio', { name: '50 %', exact: true }).click();
  await page.getByRole('button', { name: 'Keep as preset …' }).click();
  await page.getByLabel('Name of the preset').fill('Director');
  await page.getByLabel('Name of the preset').press('Enter');
  await page.getByRole('radio', { name: /PNG frames/ }).click();
  const preset = page.getByRole('button', { name: 'Director', exact: true });
  await expect(preset).toHaveAttribute('aria-pressed', 'false');
  await preset.click();
  await expect(page.getByRole('radio', { name: /WebM film/ })).toBeChecked();
  await page.getByRole('button', { name: 'Hand off 8 frames' }).click();
  const list = page.getByRole('region', { name: 'Hand-offs' });
  // The numbers that frames were to be counted from are no film's.
  await expect(list.getByText(/Reels_1-8_vp9_50pc\.webm/)).toBeVisible();

  await list.getByRole('button', { name: 'Play', exact: true }).click();
  const film = list.locator('video');
  await expect.poll(() => film.evaluate((video: HTMLVideoElement) => video.videoWidth)).toBe(160);
  await list.getByRole('button', { name: 'Rename', exact: true }).click();
  await list.getByLabel('Name of the file').fill('For the director');
  await list.getByLabel('Name of the file').press('Enter');
  await expect(list.getByText(/For_the_director\.webm/)).toBeVisible();
  await list.getByRole('button', { name: 'Again', exact: true }).click();
  await expect(list.getByText(/Reels_1-8_vp9_50pc\.webm/)).toBeVisible();
  await expect(list.getByRole('listitem')).toHaveCount(2);
  await list.getByRole('listitem').first().getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(list.getByRole('listitem')).toHaveCount(1);
  await expect(list).toContainText('For_the_director.webm');
});

test('a package that is dropped on the wall is a shot again; chosen shots are handed off at once and listed', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'Carried', { step: 'Hand-off', lengthFrames: 6 });
  const { bytes } = await downloaded(page, 'Download the shot as an open package');
  await page.getByRole('radio', { name: /MP4 film/ }).click();
  await page.goto(app.url);
  const row = page.getByRole('region').filter({ has: page.getByRole('link', { name: 'Open Carried' }) });
  await row.evaluate(
    (element, data) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([new Uint8Array(data)], 'Brought back.zip', { type: 'application/zip' }));
      for (const type of ['dragenter', 'dragover', 'drop'])
        element.dispatchEvent(
          new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: transfer }),
        );
    },
    [...bytes],
  );
  await expect(page.getByText('Brought back is a shot of this production now.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Open Brought back' })).toBeVisible();

  // What is no package says so, and makes nothing.
  await row.getByLabel('Packages to open').setInputFiles({
    name: 'letter.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('hello'),
  });
  await expect(page.getByText(/“letter.zip” is no package that can be opened/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Open letter' })).toHaveCount(0);

  await page.getByRole('link', { name: 'Open Brought back' }).click({ modifiers: ['Control'] });
  await page.getByRole('link', { name: 'Open Carried' }).click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Hand off the chosen shots with …' }).click();
  await page.getByRole('menuitem', { name: 'the last settings' }).click();
  await expect(page.getByText(/^2 shots: the hand-off has begun/)).toBeVisible();

  await page.getByRole('link', { name: 'Open Brought back' }).click();
  await goToStep(page, 'Hand-off');
  const list = page.getByRole('region', { name: 'Hand-offs' });
  await expect(list.getByText(/Brought_back_1-6\.mp4/)).toBeVisible();
  await page.goto(app.url);
  const name = (await row.getAttribute('aria-label'))!;
  const listed = async (item: RegExp) => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: `More for ${name}` }).click();
    await page.getByRole('menuitem', { name: item }).click();
    return readFileSync(await (await download).path()).toString();
  };
  expect(await listed(/^List of shots/)).toMatch(
    /Brought back,6,0\.25,24,320,180,\d+,\d+,\d+,\d+,Brought_back_1-6\.mp4/,
  );
  const timeline = JSON.parse(await listed(/OpenTimelineIO/));
  const clips = timeline.tracks.children[0].children as { name: string }[];
  expect(clips.map((clip) => clip.name)).toEqual(expect.arrayContaining(['Carried', 'Brought back']));

  // One after another, each behind its slate: held at the first of them, then played to its end.
  await page
    .getByRole('region', { name, exact: true })
    .getByRole('button', { name: 'Play in order' })
    .click();
  await expect(page.getByRole('button', { name: 'Pause', exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByTestId('slate')).toContainText('1 of 2');
  await expect(page.getByTestId('slate')).toContainText('Brought back');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.locator('video')).toHaveAttribute('aria-label', 'Carried');
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await page.goto(app.url);

  // All of it as one file, and back.
  const archived = page.waitForEvent('download');
  await page.getByRole('button', { name: `More for ${name}` }).click();
  await page.getByRole('menuitem', { name: 'Archive, as one file' }).click();
  await page.getByLabel('Archive to open').setInputFiles(await (await archived).path());
  await expect(page.getByText(`${name} 2 is on the wall.`)).toBeVisible();
  const back = page.getByRole('region', { name: `${name} 2`, exact: true });
  await expect(back.getByRole('link', { name: /^Open / })).toHaveCount(2);
});
