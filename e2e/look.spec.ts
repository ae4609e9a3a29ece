import type { Page } from '@playwright/test';
import { type Layer, writePsdUint8Array } from 'ag-psd';
import { expect, test } from './app-server.ts';
import {
  artFile,
  bringIn,
  fillNumber,
  goToStep,
  jettyShot,
  land,
  lightRow,
  makeShot,
  picturePixels,
  placeOf,
  renderedFrame,
  saved,
  worstDifference,
} from './steps.ts';

const dock = (page: Page) => page.getByTestId('dock');
const number = (page: Page, name: string) => dock(page).getByRole('textbox', { name, exact: true });
const keyed = (page: Page, name: string) =>
  page.getByRole('button', { name: new RegExp(`^${name} key at frame`) });

/** The jetty with some depth, on Look. */
async function jettyLook(page: Page, url: string, name: string): Promise<void> {
  await jettyShot(page, url, name);
  for (const [plane, depth] of [
    ['Sheds', '400'],
    ['Evening sky', '4000'],
  ] as const) {
    await page.getByRole('button', { name: new RegExp(`^${plane}, depth`) }).click();
    await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), depth);
  }
  await goToStep(page, 'Look');
  await page.keyboard.press('Home');
  await picturePixels(page, 1);
}

test('the focus is pulled by two clicks at two frames, through to what is behind, and undone', async ({
  page,
  app,
}) => {
  await jettyLook(page, app.url, 'Pull');
  await fillNumber(number(page, 'Iris, across'), '30');
  const sharpAt = dock(page).getByRole('combobox', { name: 'Sharp at' });
  // A shed stands before the sky: the first click takes the shed, the second what is behind it.
  const shed = await placeOf(page, 0.5, 0.3);
  await page.mouse.click(shed.x, shed.y);
  await expect(sharpAt).toHaveText('Sheds');
  await expect(lightRow(page, 'Sheds')).toHaveAccessibleName(/sharp/);
  await page.mouse.click(shed.x, shed.y);
  await expect(sharpAt).toHaveText('Evening sky');
  await expect(page.getByTestId('sharp-sentence')).toContainText('Evening sky');
  await page.keyboard.press('End');
  await expect(page.getByText('Click what shall be sharp at 24')).toBeVisible();
  const rail = await placeOf(page, 0.5, 0.93);
  await page.mouse.click(rail.x, rail.y);
  await expect(sharpAt).toHaveText('Jetty');
  await expect(keyed(page, 'Focus')).toHaveCount(2);
  await expect(page.getByTestId('lanes').getByText('Evening sky')).toBeVisible();
  // In between the focus is on the way.
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowLeft');
  await expect(sharpAt).toHaveText('on the way');
  await saved(page);
  await page.keyboard.press('Control+z');
  await expect(keyed(page, 'Focus')).toHaveCount(1);
});

test('a grade is keyed by its pill and by numbers, eases between, and goes to the server as it is seen', async ({
  page,
  app,
}) => {
  await jettyLook(page, app.url, 'Graded');
  await lightRow(page, 'Jetty').click();
  const pill = (name: string) => dock(page).getByRole('button', { name, exact: true });
  await pill('Key brightness at this frame').click();
  await page.keyboard.press('End');
  await fillNumber(number(page, 'Brightness'), '40');
  await expect(pill('Delete the brightness key at this frame')).toBeVisible();
  // A colour eases like any number.
  await number(page, 'Tint').fill('#ff8800');
  await number(page, 'Tint').press('Enter');
  await fillNumber(number(page, 'Tint strength'), '100');
  await expect(pill('Delete the tint key at this frame')).toBeVisible();
  await page.keyboard.press('Home');
  await expect(pill('Delete the tint key at this frame')).toBeVisible();
  await expect(pill('Delete the brightness key at this frame')).toBeVisible();
  await expect(number(page, 'Brightness')).toHaveValue('100');
  await saved(page);
  // The middle frame, half way down: the plank under the boards is (122, 106, 88), here at 70 % and a tinted half.
  const rgb = await renderedFrame(page);
  const at = (165 * 320 + 5) * 3;
  expect(rgb[at]!).toBeGreaterThan(rgb[at + 2]!);
  expect(Math.abs(rgb[at]! - 122 * 0.7)).toBeLessThan(12);
});

test('it fades to black in one command, by the finder too, and is keyed so', async ({ page, app }) => {
  await jettyLook(page, app.url, 'Fades');
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await fillNumber(number(page, 'Over'), '12');
  await dock(page).getByRole('button', { name: 'Fade out' }).click();
  await expect(keyed(page, 'Brightness')).toHaveCount(2);
  await page.keyboard.press('End');
  const black = await picturePixels(page, 24);
  const canvas = page.getByTestId('picture');
  const size = await canvas.evaluate((c: HTMLCanvasElement) => ({ width: c.width, height: c.height }));
  const middle = (Math.round(size.height / 2) * size.width + Math.round(size.width / 2)) * 4;
  expect([...black.subarray(middle, middle + 3)]).toEqual([0, 0, 0]);
  await page.keyboard.press('Control+z');
  await expect(keyed(page, 'Brightness')).toHaveCount(0);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('Fade in from black');
  await page.keyboard.press('Enter');
  await expect(keyed(page, 'Brightness')).toHaveCount(2);
});

test('a look is kept for the production, and given to another plane of another shot', async ({
  page,
  app,
}) => {
  await jettyLook(page, app.url, 'Kept look');
  await lightRow(page, 'Sheds').click();
  await fillNumber(number(page, 'Saturation'), '20');
  await dock(page).getByRole('combobox', { name: 'Laid over as' }).click();
  await page.getByRole('option', { name: 'multiply' }).click();
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await dock(page).getByRole('textbox', { name: 'Keep that of Sheds as' }).fill('Grey shadow');
  await dock(page).getByRole('button', { name: 'Keep', exact: true }).click();
  await lightRow(page, 'Jetty').click();
  await dock(page)
    .getByRole('button', { name: /^Grey shadow/ })
    .click();
  await page.getByRole('button', { name: 'Light', exact: true }).click();
  await expect(number(page, 'Saturation')).toHaveValue('20');
  await expect(dock(page).getByRole('combobox', { name: 'Laid over as' })).toHaveText('multiply');
  await saved(page);
});

test('by the keyboard alone a plane is chosen, made sharp, and the focus stepped', async ({ page, app }) => {
  await jettyLook(page, app.url, 'Keys');
  await fillNumber(number(page, 'Iris, across'), '30');
  await lightRow(page, 'Sheds').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('f');
  await expect(dock(page).getByRole('combobox', { name: 'Sharp at' })).toHaveText('Sheds');
  const line = page.getByRole('slider', { name: 'Depth that is sharp' });
  await line.focus();
  await page.keyboard.press('ArrowDown');
  await expect(dock(page).getByRole('combobox', { name: 'Sharp at' })).toHaveText('a depth');
  await expect(line).toHaveAttribute('aria-valuenow', /^4\d\d$/);
  await line.press('Shift+ArrowUp');
  await expect(line).not.toHaveAttribute('aria-valuenow', /^4[1-9]\d$/);
});

test('the line of the focus is dragged, and dropped whole by Escape', async ({ page, app }) => {
  await jettyLook(page, app.url, 'Line');
  await fillNumber(number(page, 'Iris, across'), '30');
  const line = page.getByRole('slider', { name: 'Depth that is sharp' });
  const box = (await line.boundingBox())!;
  const from = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x, from.y + 90, { steps: 6 });
  await expect(line).not.toHaveAttribute('aria-valuenow', '0');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(line).toHaveAttribute('aria-valuenow', '0');
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x, from.y + 90, { steps: 6 });
  await page.mouse.up();
  await expect(line).not.toHaveAttribute('aria-valuenow', '0');
  await saved(page);
});

test('a colour is matched to another that is clicked', async ({ page, app }) => {
  await jettyLook(page, app.url, 'Match');
  await lightRow(page, 'Jetty').click();
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  const pick = async (button: string, x: number, y: number) => {
    await dock(page).getByRole('button', { name: button }).click();
    const at = await placeOf(page, x, y);
    await page.mouse.click(at.x, at.y);
  };
  await pick('This colour', 0.02, 0.78);
  // The bright window of a shed is not what it is like: the dark of the shed is.
  await pick('Shall be this', 0.47, 0.25);
  await dock(page).getByRole('button', { name: 'Match', exact: true }).click();
  await expect(page.getByText(/^Matched, to/)).toBeVisible();
  await page.getByRole('button', { name: 'Light', exact: true }).click();
  await expect(number(page, 'Tint strength')).toHaveValue('100');
});

const base64 = (bytes: Uint8ClampedArray) => Buffer.from(bytes).toString('base64');

test('a layered document with a shadow and a light is drawn as the browser merges it', async ({
  page,
  app,
}) => {
  const [width, height] = [320, 180];
  const pixels = (paint: (x: number, y: number) => readonly [number, number, number, number]) => {
    const data = new Uint8ClampedArray(width * height * 4);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) data.set(paint(x, y), (y * width + x) * 4);
    return { width, height, data };
  };
  const soft = (x: number, y: number, cx: number, cy: number, r: number) =>
    Math.round(255 * Math.max(0, 1 - Math.hypot(x - cx, y - cy) / r));
  const layers = [
    { name: 'Wall', mode: 'normal', image: pixels((x, y) => [90 + (x >> 2), 120, 60 + (y >> 1), 255]) },
    { name: 'Shadow', mode: 'multiply', image: pixels((x, y) => [60, 50, 110, soft(x, y, 110, 90, 80)]) },
    { name: 'Light', mode: 'screen', image: pixels((x, y) => [255, 200, 120, soft(x, y, 220, 70, 90)]) },
  ] as const;
  // Its own merged picture, by the browser's canvas.
  await page.goto(app.url);
  const sent = await page.evaluate(
    ({ layers, width, height }) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [width, height];
      // Wide, so that what it rounds after each layer does not add up.
      const wide = { willReadFrequently: true, colorType: 'float16' } as CanvasRenderingContext2DSettings;
      const context = canvas.getContext('2d', wide)!;
      for (const { mode, data } of layers) {
        const layer = document.createElement('canvas');
        [layer.width, layer.height] = [width, height];
        const bytes = Uint8ClampedArray.from(atob(data), (char) => char.charCodeAt(0));
        layer.getContext('2d')!.putImageData(new ImageData(bytes, width, height), 0, 0);
        context.globalCompositeOperation = mode === 'normal' ? 'source-over' : mode;
        context.drawImage(layer, 0, 0);
      }
      const { data } = context.getImageData(0, 0, width, height);
      return btoa(Array.from(data, (byte) => String.fromCharCode(byte)).join(''));
    },
    // As text: an array of numbers is sent number by number, which takes ten seconds.
    { layers: layers.map(({ mode, image }) => ({ mode, data: base64(image.data) })), width, height },
  );
  const merged = new Uint8ClampedArray(Buffer.from(sent, 'base64'));
  const psd = writePsdUint8Array({
    width,
    height,
    imageData: { width, height, data: merged },
    children: layers.map(
      ({ name, mode, image }): Layer => ({ name, left: 0, top: 0, blendMode: mode, imageData: image }),
    ),
  });
  await makeShot(page, app.url, 'Modes');
  await bringIn(page, [artFile('light.psd', Buffer.from(psd))]);
  await expect(page.getByText(/is blended as/)).toHaveCount(0);
  await land(page);
  await saved(page);
  const ours = await renderedFrame(page);
  const theirs = new Uint8Array(merged.filter((_, i) => i % 4 !== 3));
  expect(worstDifference(ours, theirs)).toBeLessThanOrEqual(1);
  await goToStep(page, 'Look');
  await lightRow(page, 'Shadow').click();
  await expect(dock(page).getByRole('combobox', { name: 'Laid over as' })).toHaveText('multiply');
});
