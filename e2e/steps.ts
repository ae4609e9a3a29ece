import { expect, type Locator, type Page } from '@playwright/test';
import { jettyPainting } from './painting.ts';

/** Makes a production and a shot of 320 × 180 through the dialogs, and opens the shot on Art. */
export async function makeShot(page: Page, url: string, name: string, lengthFrames = 24): Promise<void> {
  await page.goto(url);
  await page.getByRole('button', { name: 'New production' }).click();
  await page.getByLabel('Name').fill(`Production of ${name}`);
  await page.getByRole('button', { name: 'Make production' }).click();
  const production = page.getByRole('region', { name: `Production of ${name}`, exact: true });
  await production.getByRole('button', { name: 'New shot' }).click();
  await page.getByLabel('Name').fill(name);
  await fillNumber(page.getByLabel('Width', { exact: true }), '640/2');
  await fillNumber(page.getByLabel('Height', { exact: true }), '180');
  await fillNumber(page.getByLabel('Length', { exact: true }), `${lengthFrames}`);
  await page.getByRole('button', { name: 'Make shot' }).click();
  await page.waitForURL(/\/art$/);
}

export async function fillNumber(field: Locator, text: string): Promise<void> {
  await field.fill(text);
  await field.press('Enter');
}

/** Brings the jetty painting in through the file chooser and waits until its four planes stand. */
export async function importJetty(page: Page): Promise<void> {
  await page
    .getByTestId('art-files')
    .setInputFiles({ name: 'jetty.ora', mimeType: 'image/openraster', buffer: await jettyPainting() });
  await expect(page.getByText('4 planes, on top first')).toBeVisible();
}

export async function goToStep(page: Page, step: 'Art' | 'Stage' | 'Move' | 'Hand-off'): Promise<void> {
  await page
    .getByRole('navigation', { name: 'Steps' })
    .getByRole('link', { name: step, exact: true })
    .click();
  await page.waitForURL(new RegExp(`/${step.toLowerCase()}$`));
}

export const saved = (page: Page): Promise<void> =>
  expect(page.getByRole('banner').getByText('Saved', { exact: true })).toBeVisible();
export const currentFrame = (page: Page): Locator => page.getByTestId('current-frame');
export const standRow = (page: Page, name: string): Locator =>
  page.getByRole('button', { name: new RegExp(`^${name}, depth`) });
export const bar = (page: Page, name: string): Locator =>
  page.getByTestId(`bar-${name}`).locator('rect').first();

/** Waits until the live picture shows `frame` and rests, then returns its pixels (canvas px, RGBA). */
export async function picturePixels(page: Page, frame?: number): Promise<Uint8Array> {
  const canvas = page.getByTestId('picture');
  if (frame !== undefined) await expect(canvas).toHaveAttribute('data-frame', String(frame));
  await expect(page.getByText(/^Loading art/)).toHaveCount(0);
  await expect(canvas).toHaveAttribute('data-art', 'ready');
  await expect(canvas).toHaveAttribute('data-resting', 'true');
  let last = '';
  await expect(async () => {
    const now = await canvas.evaluate((c: HTMLCanvasElement) => c.toDataURL());
    const same = now === last;
    last = now;
    expect(same).toBe(true);
  }).toPass({ intervals: [200] });
  const values = await canvas.evaluate((c: HTMLCanvasElement) => {
    const data = c.getContext('2d')?.getImageData(0, 0, c.width, c.height).data;
    return data ? btoa(Array.from(data, (v) => String.fromCharCode(v)).join('')) : '';
  });
  return new Uint8Array(Buffer.from(values, 'base64'));
}

/** Largest difference of any channel of any pixel. */
export function worstDifference(p: Uint8Array, q: Uint8Array): number {
  expect(p.length).toBe(q.length);
  return p.reduce((worst, value, i) => Math.max(worst, Math.abs(value - (q[i] as number))), 0);
}

/** Share of pixels that differ by more than `by` in some channel. */
export function shareThatDiffers(p: Uint8Array, q: Uint8Array, by: number): number {
  let count = 0;
  for (let i = 0; i < p.length; i += 4) {
    if ([0, 1, 2].some((c) => Math.abs((p[i + c] as number) - (q[i + c] as number)) > by)) count += 1;
  }
  return count / (p.length / 4);
}

export async function dragBy(page: Page, target: Locator, dx: number, dy: number): Promise<void> {
  const box = await target.boundingBox();
  if (!box) throw new Error('There is nothing to drag');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx / 2, y + dy / 2, { steps: 4 });
  await page.mouse.move(x + dx, y + dy, { steps: 4 });
  await page.mouse.up();
}
