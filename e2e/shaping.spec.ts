import type { Page } from '@playwright/test';
import { expect, test } from './app-server.ts';
import {
  currentFrame,
  dragBy,
  fillNumber,
  inDock,
  jettyShot,
  picturePixels,
  saved,
  shareThatDiffers,
  worstDifference,
} from './steps.ts';

test.beforeEach(async ({ page, app }, info) => {
  await jettyShot(page, app.url, `Shape ${info.title.slice(0, 30)}`, { step: 'Move', lengthFrames: 48 });
});

const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name, exact: true });
const key = (page: Page, channel: string, frame: number) => button(page, `${channel} key at frame ${frame}`);
const channelMenu = async (page: Page, channel: string, item: string | RegExp) => {
  await button(page, `More for ${channel}`).click();
  await page.getByRole('menuitem', { name: item }).click();
};
/** Opens the popover behind a button, does something in it, and closes it. */
async function inPopover(page: Page, name: string | RegExp, work: () => Promise<void>) {
  await button(page, name).first().click();
  await work();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
}
const numberIn = async (page: Page, label: string): Promise<number> =>
  Number(
    (await page.getByLabel(label, { exact: true }).inputValue()).replace('−', '-').replace(/[^\d.-]/g, ''),
  );

/** Keys a pan and a truck over the whole shot by typing. */
async function keyPanAndTruck(page: Page) {
  for (const [channel, to] of [
    ['Pan E–W', '60'],
    ['Truck', '40'],
  ] as const) {
    await page.keyboard.press('Home');
    await button(page, `Key ${channel} at frame 1`).click();
    await page.keyboard.press('End');
    await fillNumber(page.getByLabel(channel, { exact: true }), to);
    await page.keyboard.press('Escape');
  }
}

test('a pan and truck are keyed in fielding, eased, bent, baked and retimed', async ({ page }) => {
  await button(page, 'Fielding').click();
  await button(page, 'Camera beside the other').click();
  // By mouse: the first frame is dragged, the last one too, and sized by truck.
  await dragBy(page, page.getByTestId('field-1-label'), -20, 0);
  await dragBy(page, page.getByTestId('field-48-label'), 24, 4);
  await expect(key(page, 'Pan E–W', 1)).toBeVisible();
  await expect(key(page, 'Pan N–S', 48)).toBeVisible();
  await inDock(page, 'Camera …', () => page.getByRole('radio', { name: 'Truck' }).click());
  await dragBy(page, page.getByTestId('field-48-corner-2'), -12, -7);
  await expect(key(page, 'Truck', 48)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Zoom key at/ })).toHaveCount(0);
  // By keyboard: panned, sized and turned.
  const last = page.getByRole('button', { name: /^Field at frame 48/ });
  await last.focus();
  for (const press of ['Shift+ArrowRight', '-', ']']) await page.keyboard.press(press);
  await expect(key(page, 'Roll', 48)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(key(page, 'Roll', 48)).toHaveCount(0);

  // Eased by a strength that is typed, and kept on the shelf under a name.
  await page.getByTestId('span-camera/panX-1').click();
  await inPopover(page, 'Shape …', async () => {
    await fillNumber(page.getByLabel('Strength', { exact: true }), '80');
    await expect(page.getByLabel('x1', { exact: true })).toHaveValue('0.8');
    await page.getByRole('slider', { name: 'Handle at the end' }).press('ArrowLeft');
    await expect(page.getByLabel('x2', { exact: true })).toHaveValue('0.18');
  });
  await inPopover(page, 'Shelf', async () => {
    await page.getByLabel('Keep this ease as').fill('Harbour drift');
    await button(page, 'Keep').click();
    await expect(page.getByRole('button', { name: 'Harbour drift', exact: true })).toBeVisible();
  });
  await page.getByTestId('span-camera/panY-1').or(page.getByTestId('span-camera/truck-1')).first().click();
  await inPopover(page, 'Shelf', () => button(page, 'Harbour drift').click());
  await inPopover(page, 'Shape …', () => expect(page.getByLabel('x2', { exact: true })).toHaveValue('0.18'));

  // Bent: the path curves, the keys stay where they are in time and in place.
  const line = page.getByTestId('path-line').first();
  const box = (await line.boundingBox())!;
  await page.mouse.dblclick(box.x + box.width / 2, box.y + box.height / 2);
  const bend = page.getByRole('button', { name: /^Bend 1 of the path$/ }).first();
  await dragBy(page, bend, 0, -24);
  await expect(page.getByRole('button', { name: 'Track key at frame 1', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Track key at frame 48', exact: true })).toBeVisible();
  await page.keyboard.press('Home');
  for (let i = 0; i < 23; i++) await page.keyboard.press('ArrowRight');
  const bent = await picturePixels(page, 24);
  await inDock(page, 'Track', () => button(page, 'Back to channels').click());
  await expect(key(page, 'Pan N–S', 48)).toBeVisible();
  // Baked to within a tenth of a px, so the picture can only differ by a shade here and there.
  expect(shareThatDiffers(bent, await picturePixels(page, 24), 24)).toBeLessThan(0.01);

  // Retimed: all keys to half their time, then the shot to twice its length with them.
  await page.keyboard.press('Control+a');
  await inPopover(page, /keys …$/, () => fillNumber(page.getByLabel('Lasts', { exact: true }), '50%'));
  await expect(page.getByRole('button', { name: /^Truck key at frame (24|25)$/ }).first()).toBeVisible();
  await inPopover(page, /^48 f/, async () => {
    await page.getByRole('radio', { name: 'Keys stretch with it' }).click();
    await fillNumber(page.getByLabel('Length', { exact: true }), '95');
  });
  await expect(page.getByRole('button', { name: /^Truck key at frame (48|49)$/ }).first()).toBeVisible();
  await saved(page);
});

test('channels one by one: muted, soloed, locked, copied, smoothed, boxed and cleared', async ({ page }) => {
  await keyPanAndTruck(page);
  await page.keyboard.press('End');
  const both = await picturePixels(page, 48);
  await channelMenu(page, 'Truck', /^Mute/);
  await expect(page.getByText('muted', { exact: true })).toBeVisible();
  const panned = await picturePixels(page, 48);
  expect(shareThatDiffers(both, panned, 8)).toBeGreaterThan(0.02);
  await channelMenu(page, 'Truck', 'Move again');
  await channelMenu(page, 'Pan E–W', /^Solo/);
  expect(worstDifference(panned, await picturePixels(page, 48))).toBe(0);
  await button(page, 'All move').click();
  expect(worstDifference(both, await picturePixels(page, 48))).toBe(0);
  await channelMenu(page, 'Truck', /^Lock/);
  await expect(page.getByLabel('Truck', { exact: true })).toBeDisabled();
  await channelMenu(page, 'Truck', 'Unlock');

  // Copied into another channel of the same unit; a box chooses across rows; the speed is smoothed.
  await key(page, 'Pan E–W', 48).click();
  await page.keyboard.press('Control+c');
  await page.keyboard.press('Home');
  for (let i = 0; i < 23; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Control+v');
  await expect(key(page, 'Pan E–W', 24)).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Control+a');
  await button(page, 'Even').click();
  await expect(page.getByTestId('jump').first()).toBeVisible();
  const lanes = (await page.getByTestId('lanes').boundingBox())!;
  await page.mouse.move(lanes.x + lanes.width - 1, lanes.y + 52);
  await page.mouse.down();
  await page.mouse.move(lanes.x + 4, lanes.y + 26, { steps: 5 });
  await page.mouse.up();
  for (const frame of [1, 24, 48])
    await expect(key(page, 'Pan E–W', frame)).toHaveAttribute('aria-pressed', 'true');
  await inPopover(page, '3 keys …', () => button(page, 'Smooth').click());
  // The truck still starts and stops at once.
  await expect(page.getByTestId('jump')).toHaveCount(2);
  await page.keyboard.press('k');
  await channelMenu(page, 'Pan E–W', /^Clear/);
  await expect(page.getByRole('button', { name: /^Pan E–W key at/ })).toHaveCount(0);
  await expect(key(page, 'Truck', 48)).toBeVisible();

  // A marker with a note; in and out; every frame plays, and waits rendered afterwards.
  await page.keyboard.press('m');
  await button(page, 'Marker at frame 24').click();
  await page.getByLabel('Note at frame 24').fill('lamp lit');
  await page.keyboard.press('Enter');
  await expect(button(page, 'Marker at frame 24: lamp lit')).toBeVisible();
  await page.keyboard.press('i');
  // In one leap: frames that were stepped on are rendered already, and there would be nothing left to do ahead.
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('o');
  await expect(page.getByRole('slider', { name: 'In: first frame that plays' })).toHaveAttribute(
    'aria-valuenow',
    '24',
  );
  await inPopover(page, '1 ×', async () => {
    await page.getByRole('radio', { name: 'Every frame' }).click();
    await button(page, 'Render ahead').click();
    await expect(page.getByText('11 / 11 f')).toBeVisible();
  });
  await expect(page.getByTestId('ahead').first()).toBeVisible();
  await button(page, 'Replay').click();
  await button(page, 'Play').click();
  await expect(button(page, 'Play')).toBeVisible();
  await expect(currentFrame(page)).toHaveText('34');
  const ahead = await picturePixels(page, 34);
  await page.keyboard.press('Shift+i');
  await page.reload();
  await expect(currentFrame(page)).toHaveText('1');
  for (let i = 0; i < 33; i++) await page.keyboard.press('ArrowRight');
  expect(worstDifference(ahead, await picturePixels(page, 34))).toBe(0);
});

test('a drifting gull is ridden, and two takes are compared', async ({ page }) => {
  const picture = page.getByRole('application').first();
  await picturePixels(page, 1);
  const { width, height } = (await picture.boundingBox())!;
  // The chosen plane rides with the simulated pen; few keys come of it.
  await picture.click({ position: { x: width / 2, y: height * 0.62 } });
  const hint = await page.getByText(/^Drag .*, or beside it the camera/).textContent();
  const plane = /^Drag (.*), or/.exec(hint ?? '')![1]!;
  const keys = page.getByRole('button', { name: new RegExp(`^${plane} Place E–W key at frame`) });
  // What is to be given up must still be under way, however busy the machine is.
  const whileLong = async (work: () => Promise<void>) => {
    await page.getByRole('button', { name: /^48 f/ }).click();
    await fillNumber(page.getByLabel('Length', { exact: true }), '2400');
    await page.keyboard.press('Escape');
    await work();
    await page.keyboard.press('Control+z');
    await expect(page.getByRole('button', { name: /^48 f/ })).toBeVisible();
    await page.keyboard.press('Home');
  };
  // Escape gives the simulated pen up like a hand's.
  await whileLong(() =>
    inDock(page, 'Ride', async () => {
      await button(page, 'Drifting gull').click();
      await page.keyboard.press('Escape');
      await expect(currentFrame(page)).toHaveText('1');
      // By then the gull would have flown to its end.
      await page.waitForTimeout(4500);
      await expect(keys).toHaveCount(0);
    }),
  );
  await inDock(page, 'Ride', async () => {
    await button(page, 'Drifting gull').click();
    await expect(keys.nth(1)).toBeVisible();
  });
  expect(await keys.count()).toBeLessThan(14);
  await button(page, `Fold ${plane}`).click();
  await expect(keys).toHaveCount(0);
  await button(page, `Unfold ${plane}`).click();
  const ridden = await picturePixels(page, 1);
  await page.keyboard.press('End');
  const rode = await picturePixels(page, 48);
  await inDock(page, 'Takes', async () => {
    await page.getByLabel('Keep this set-up as').fill('Gull by hand');
    await button(page, 'Keep').click();
    await expect(button(page, 'Compare')).toBeVisible();
  });

  // By hand: the camera this time, dragged while the shot plays; given up once, then kept.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
  const panKeys = page.getByRole('button', { name: /^Pan E–W key at/ });
  const ride = async (until: 'lift' | 'escape') => {
    await inDock(page, 'Ride', async () => {
      // Two seconds at full speed may be over before a busy machine has looked.
      await page.getByRole('radio', { name: '¼ ×' }).click();
      await button(page, 'Ride with the next drag').click();
    });
    await page.mouse.move(640, 260);
    await page.mouse.down();
    await page.mouse.move(680, 270, { steps: 3 });
    // A ride that is over by then has keys, and stands at the start.
    const underWay = currentFrame(page).filter({ hasNotText: /^1$/ });
    await expect(underWay.or(panKeys).first()).toBeVisible();
    if (until === 'escape') await page.keyboard.press('Escape');
    await page.mouse.up();
  };
  await whileLong(async () => {
    await ride('escape');
    await expect(currentFrame(page)).toHaveText('1');
    await expect(panKeys).toHaveCount(0);
  });
  await ride('lift');
  await expect(panKeys.first()).toBeVisible();

  // Compared along a line that is moved by keyboard; then back to the take, whole, and undone again.
  await page.keyboard.press('End');
  const now = await picturePixels(page, 48);
  await inDock(page, 'Takes · 1', () => button(page, 'Compare').click());
  await expect(page.getByTestId('wipe')).toBeVisible();
  const line = page.getByRole('slider', { name: 'Wipe between now and Gull by hand' });
  await line.press('ArrowLeft');
  await expect(line).toHaveAttribute('aria-valuenow', '48');
  await inDock(page, 'Takes · 1', () => button(page, 'Go back').click());
  expect(worstDifference(rode, await picturePixels(page, 48))).toBe(0);
  await page.keyboard.press('Home');
  expect(worstDifference(ridden, await picturePixels(page, 1))).toBe(0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('End');
  expect(worstDifference(now, await picturePixels(page, 48))).toBe(0);

  // The sway is laid over without a key, and curves are shaped by their own handles.
  await inDock(page, 'Sway', () => button(page, 'Off').click());
  await expect(page.getByTestId('sway-ghost').first()).toBeVisible();
  expect(shareThatDiffers(now, await picturePixels(page, 48), 4)).toBeGreaterThan(0.01);
  await button(page, 'Curves').click();
  const curveKey = page.getByRole('button', { name: /^Pan E–W key at frame \d+ on its curve$/ }).last();
  const before = await numberIn(page, 'Pan E–W');
  await curveKey.focus();
  await page.keyboard.press('Shift+ArrowUp');
  await expect.poll(() => numberIn(page, 'Pan E–W')).toBeCloseTo(before + 10, 1);
  await saved(page);
});
