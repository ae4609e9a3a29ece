import { EASE_PRESET_NAMES, EASE_PRESETS, easeProgress } from '@keen-ridge/core/timing';
import { expect, test } from './app-server.ts';
import {
  currentFrame,
  dragBy,
  fillNumber,
  jettyShot,
  picturePixels,
  saved,
  worstDifference,
} from './steps.ts';

test.beforeEach(async ({ page, app }, info) => {
  await jettyShot(page, app.url, `Move ${info.title.slice(0, 30)}`, { step: 'Move' });
});

const key = (page: import('@playwright/test').Page, channel: string, frame: number) =>
  page.getByRole('button', { name: `${channel} key at frame ${frame}`, exact: true });

test('keys are set, moved and taken away by mouse and by keyboard', async ({ page }) => {
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '-40');
  await page.keyboard.press('Escape');
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '40');
  await page.keyboard.press('Escape');
  await expect(key(page, 'Pan E–W', 1)).toBeVisible();
  const box = await key(page, 'Pan E–W', 24).boundingBox();
  const first = await key(page, 'Pan E–W', 1).boundingBox();
  if (!box || !first) throw new Error('the keys are not drawn');
  const pxPerFrame = (box.x - first.x) / 23;
  await dragBy(page, key(page, 'Pan E–W', 24), -4 * pxPerFrame, 0);
  await expect(key(page, 'Pan E–W', 20)).toHaveAttribute('aria-pressed', 'true');
  await key(page, 'Pan E–W', 20).press('Alt+ArrowLeft');
  await expect(key(page, 'Pan E–W', 19)).toBeVisible();
  await page.mouse.dblclick(first.x + 9 * pxPerFrame + 7, first.y + 16);
  await expect(key(page, 'Pan E–W', 10)).toBeVisible();
  await key(page, 'Pan E–W', 10).press('Delete');
  await expect(key(page, 'Pan E–W', 10)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(key(page, 'Pan E–W', 10)).toBeVisible();
  await page.keyboard.press('Home');
  await page.keyboard.press('.');
  await expect(currentFrame(page)).toHaveText('10');
  await page.keyboard.press('.');
  await expect(currentFrame(page)).toHaveText('19');
  await page.keyboard.press(',');
  await page.keyboard.press('ArrowRight');
  await expect(currentFrame(page)).toHaveText('11');
});

test('with Keying off a change shifts the whole move and makes no key', async ({ page }) => {
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '0');
  await page.getByRole('button', { name: 'Key Pan E–W at frame 1', exact: true }).click();
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '60');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Keying on' }).click();
  await expect(page.getByText('Keying off: changes shift the whole move')).toBeVisible();
  await page.keyboard.press('ArrowLeft');
  await dragBy(page, page.getByTestId('picture'), -60, 0);
  await expect(page.getByRole('button', { name: /Pan E–W key at frame/ })).toHaveCount(2);
  await page.keyboard.press('End');
  const end = Number(
    await page
      .getByLabel('Pan E–W', { exact: true })
      .inputValue()
      .then((text) => text.replace(/[^\d.]/g, '')),
  );
  expect(end).toBeGreaterThan(70);
  await page.keyboard.press('Home');
  await expect(page.getByLabel('Pan E–W', { exact: true })).toHaveValue(
    `+${(end - 60).toFixed(1).replace(/\.0$/, '')}`,
  );
});

test('every ease is on a button, and the span draws its speed', async ({ page }) => {
  await page.getByRole('button', { name: 'Key Truck at frame 1', exact: true }).click();
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Truck', { exact: true }), '80');
  await page.keyboard.press('Escape');
  await page.getByTestId('span-camera/truck-1').click();
  const shapes = new Set<string>();
  const names = ['Even', 'Hold', 'In', 'Out', 'In-out'];
  expect(names).toHaveLength(EASE_PRESET_NAMES.length);
  for (const name of names) {
    await page.getByRole('button', { name, exact: true }).click();
    await expect(page.getByRole('button', { name, exact: true })).toHaveAttribute('aria-pressed', 'true');
    shapes.add(await page.getByTestId('span-camera/truck-1').innerHTML());
  }
  expect(shapes.size).toBe(names.length);
});

test('scrubbing shows the same frame as stepping there', async ({ page }) => {
  await page.getByRole('button', { name: 'Key Pan E–W at frame 1', exact: true }).click();
  await page.keyboard.press('End');
  await fillNumber(page.getByLabel('Pan E–W', { exact: true }), '90');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Home');
  for (let i = 0; i < 11; i++) await page.keyboard.press('ArrowRight');
  const stepped = await picturePixels(page, 12);
  const ruler = page.getByRole('slider', { name: 'Frame', exact: true });
  const box = await ruler.boundingBox();
  if (!box) throw new Error('no ruler');
  const at = (frame: number) => box.x + 10 + ((box.width - 20) * (frame - 1)) / 23;
  await page.mouse.move(at(24), box.y + 10);
  await page.mouse.down();
  await page.mouse.move(at(5), box.y + 10, { steps: 8 });
  await page.mouse.move(at(12), box.y + 10, { steps: 8 });
  await page.mouse.up();
  await expect(currentFrame(page)).toHaveText('12');
  expect(worstDifference(stepped, await picturePixels(page, 12))).toBe(0);
});

test('the playhead stays where the pointer is let go, though no move was heard there', async ({ page }) => {
  const ruler = page.getByRole('slider', { name: 'Frame', exact: true });
  const box = await ruler.boundingBox();
  if (!box) throw new Error('no ruler');
  const at = (frame: number) => box.x + 10 + ((box.width - 20) * (frame - 1)) / 23;
  await page.mouse.move(at(20), box.y + 10);
  await page.mouse.down();
  await page.mouse.move(at(11), box.y + 10);
  await expect(currentFrame(page)).toHaveText('11');
  // The release brings a place of its own, as the browser sends it when the page was too busy for the last move.
  const browser = await page.context().newCDPSession(page);
  const place = { x: at(12), y: box.y + 10, button: 'left' as const, buttons: 0, clickCount: 1 };
  await browser.send('Input.dispatchMouseEvent', { type: 'mouseReleased', ...place });
  await expect(currentFrame(page)).toHaveText('12');
  await page.mouse.up();
});

test('play without loop stops on the last frame; the length and rate can be changed', async ({ page }) => {
  await page.getByRole('button', { name: '24 f · 1.00 s · 24' }).click();
  await fillNumber(page.getByLabel('Length', { exact: true }), '0.5s');
  await page.getByLabel('Rate, frames a second').fill('12');
  await page.getByLabel('Rate, frames a second').press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: '12 f · 1.00 s · 12' })).toBeVisible();
  await page.getByRole('button', { name: 'Replay' }).click();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  await expect(currentFrame(page)).toHaveText('12');
  await saved(page);
});

test('eases agree with the browser’s own animation engine', async ({ page }) => {
  // Outside check: element.animate of this Chromium, which implements W3C CSS Easing Functions and Web Animations.
  const steps = Array.from({ length: 41 }, (_, i) => i / 40);
  const curves = [
    ...EASE_PRESET_NAMES.flatMap((name) =>
      EASE_PRESETS[name].kind === 'bezier' ? [EASE_PRESETS[name]] : [],
    ),
    { kind: 'linear' as const },
    { kind: 'bezier' as const, x1: 0.25, y1: 0.1, x2: 0.25, y2: 1 },
    { kind: 'bezier' as const, x1: 0.7, y1: -0.4, x2: 0.2, y2: 1.5 },
    { kind: 'bezier' as const, x1: 0, y1: 1, x2: 1, y2: 0 },
  ];
  expect(curves).toHaveLength(7);
  for (const ease of curves) {
    const css =
      ease.kind === 'bezier' ? `cubic-bezier(${ease.x1}, ${ease.y1}, ${ease.x2}, ${ease.y2})` : 'linear';
    const theirs = await page.evaluate(
      ({ easing, at }) => {
        const element = document.createElement('div');
        document.body.append(element);
        const animation = element.animate([{ opacity: 0 }, { opacity: 1 }], {
          duration: 1000,
          easing,
          fill: 'both',
        });
        animation.pause();
        const values = at.map((t) => {
          animation.currentTime = t * 1000;
          return animation.effect?.getComputedTiming().progress ?? -1;
        });
        element.remove();
        return values;
      },
      { easing: css, at: steps },
    );
    steps.forEach((t, i) => {
      expect(Math.abs(easeProgress(ease, t) - (theirs[i] ?? -1))).toBeLessThan(1e-5);
    });
  }
});
