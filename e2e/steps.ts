import { expect, type Locator, type Page } from '@playwright/test';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { jettyPainting } from './painting.ts';

/** Sends an object as JSON, or bytes as they are; returns the id of what was made. */
async function make(page: Page, address: string, data: object | Buffer): Promise<string> {
  const answer = await page.request.post(address, { data });
  expect(answer.status()).toBe(201);
  return (await answer.json()).id;
}

const makeProduction = (page: Page, url: string, shot: string): Promise<string> =>
  make(page, `${url}/api/productions`, { name: `Production of ${shot}` });

/** Makes a production and a shot of 320 × 180 at 24, and opens the shot on Art. */
export async function makeShot(page: Page, url: string, name: string, lengthFrames = 24): Promise<void> {
  const production = await makeProduction(page, url, name);
  const shot = { name, widthPx: 320, heightPx: 180, rate: { num: 24, den: 1 }, lengthFrames };
  await page.goto(`${url}/shots/${await make(page, `${url}/api/productions/${production}/shots`, shot)}/art`);
}

/** The same as an artist does it, from the wall through the dialogs. */
export async function makeShotByDialogs(
  page: Page,
  url: string,
  name: string,
  lengthFrames = 24,
): Promise<void> {
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
  await bringIn(page, [artFile('jetty.ora', await jettyPainting())]);
  await land(page);
  await expect(page.getByText('4 planes', { exact: true })).toBeVisible();
}

type Step = 'Art' | 'Stage' | 'Move' | 'Look' | 'Survey' | 'Hand-off';

/** What is in a package of a shot with the jetty, made once as an artist makes it. */
let jettyParts: Record<string, Uint8Array> | null = null;

async function partsOfJetty(page: Page, url: string): Promise<Record<string, Uint8Array>> {
  await makeShot(page, url, 'The jetty itself');
  await importJetty(page);
  await saved(page);
  const shot = /shots\/([^/]+)/.exec(page.url())?.[1];
  const answer = await page.request.get(`${url}/api/shots/${shot}/package`);
  expect(answer.status()).toBe(200);
  return unzipSync(await answer.body());
}

/** A shot with the four planes of the jetty, open on a step. How art comes in is tried where it is brought in. */
export async function jettyShot(
  page: Page,
  url: string,
  name: string,
  { step = 'Stage', lengthFrames = 24 }: { step?: Step; lengthFrames?: number } = {},
): Promise<void> {
  jettyParts ??= await partsOfJetty(page, url);
  const scene = JSON.parse(strFromU8(jettyParts['scene.json']!));
  const parts = { ...jettyParts, 'scene.json': strToU8(JSON.stringify({ ...scene, lengthFrames })) };
  const query = new URLSearchParams({ name: `${name}.zip` });
  const production = await makeProduction(page, url, name);
  const address = `${url}/api/productions/${production}/packages?${query}`;
  const shot = await make(page, address, Buffer.from(zipSync(parts, { level: 0 })));
  await page.goto(`${url}/shots/${shot}/${step.toLowerCase()}`);
}

export const artFile = (name: string, buffer: Buffer) => ({
  name,
  mimeType: 'application/octet-stream',
  buffer,
});

/** Chooses files and waits for the look at what was read. */
export async function bringIn(page: Page, files: ReturnType<typeof artFile>[]): Promise<void> {
  await page.getByTestId('art-files').setInputFiles(files);
  await expect(page.getByRole('heading', { name: 'Look before it lands' })).toBeVisible();
}

/** Puts what was looked at on the stage. */
export async function land(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^(Put on the stage|Take the new version)$/ }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
}

/** A plane's row on Art. */
export const artRow = (page: Page, name: string): Locator =>
  page.getByRole('list', { name: 'Planes, on top first' }).getByRole('button', { name, exact: true });

/** The middle frame as the server renders it, at its own size over black: straight RGB. */
export async function renderedFrame(page: Page): Promise<Uint8Array> {
  const shot = /shots\/([^/]+)/.exec(page.url())?.[1];
  const answer = await page.request.get(`${new URL(page.url()).origin}/api/shots/${shot}/picture`);
  const { data } = await sharp(await answer.body())
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
}

export async function goToStep(page: Page, step: Step): Promise<void> {
  const link = page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name: step, exact: true });
  await link.click();
  await page.waitForURL(new RegExp(`/${step.toLowerCase()}$`));
  // The address is there before the page is: the step that is left still stands for a moment.
  await expect(link).toHaveAttribute('aria-current', 'page');
}

export const saved = (page: Page): Promise<void> =>
  expect(page.getByRole('banner').getByText('Saved', { exact: true })).toBeVisible();
export const currentFrame = (page: Page): Locator => page.getByTestId('current-frame');
export const standRow = (page: Page, name: string): Locator =>
  page.getByRole('button', { name: new RegExp(`^${name}, depth`) });
/** A plane on the Stand as light. */
export const lightRow = (page: Page, name: string): Locator =>
  page
    .getByRole('list', { name: 'Planes, near to far, with their light' })
    .getByRole('button', { name: new RegExp(`^${name}, `) });
export const bar = (page: Page, name: string): Locator =>
  page.getByTestId(`bar-${name}`).locator('rect').first();

/** In the page: the canvas as the address of a PNG, or nothing where it has changed within a fifth of a second. */
async function pngAtRest(canvas: HTMLCanvasElement): Promise<string> {
  const { width, height } = canvas;
  const pixels = () => {
    const copy = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
    copy.drawImage(canvas, 0, 0);
    return new Uint32Array(copy.getImageData(0, 0, width, height).data.buffer);
  };
  const before = pixels();
  await new Promise((resolve) => setTimeout(resolve, 200));
  return pixels().every((value, i) => value === before[i]) ? canvas.toDataURL() : '';
}

/** Waits until the live picture shows `frame` and rests, then returns its pixels (canvas px, RGBA). */
export async function picturePixels(page: Page, frame?: number): Promise<Uint8Array> {
  const canvas = page.getByTestId('picture');
  if (frame !== undefined) await expect(canvas).toHaveAttribute('data-frame', String(frame));
  await expect(page.getByText(/^Loading art/)).toHaveCount(0);
  await expect(canvas).toHaveAttribute('data-art', 'ready');
  await expect(canvas).toHaveAttribute('data-resting', 'true');
  let picture = '';
  await expect(async () => {
    picture = await canvas.evaluate(pngAtRest);
    expect(picture).not.toBe('');
  }).toPass();
  // Its PNG has the canvas's own bytes: nothing of it is clear.
  const png = Buffer.from(picture.slice(picture.indexOf(',') + 1), 'base64');
  const { data } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
}

/** Largest difference of any channel of any pixel. */
export function worstDifference(p: Uint8Array, q: Uint8Array): number {
  expect(p.length).toBe(q.length);
  let worst = 0;
  for (let i = 0; i < p.length; i++) worst = Math.max(worst, Math.abs((p[i] as number) - (q[i] as number)));
  return worst;
}

/** Share of pixels that differ by more than `by` in some channel. */
export function shareThatDiffers(p: Uint8Array, q: Uint8Array, by: number): number {
  let count = 0;
  for (let i = 0; i < p.length; i += 4) {
    const differs = (c: number) => Math.abs((p[i + c] as number) - (q[i + c] as number)) > by;
    if (differs(0) || differs(1) || differs(2)) count += 1;
  }
  return count / (p.length / 4);
}

/** Opens the depth, place or run numbers of the chosen planes. */
export const panelTab = (page: Page, name: 'Depth' | 'Place' | 'Run'): Promise<void> =>
  page.getByRole('tab', { name }).click();

export const depthOf = async (page: Page, name: string): Promise<number> => {
  const label = (await standRow(page, name).getAttribute('aria-label')) ?? '';
  return Number(/depth (.*) px/.exec(label)?.[1]?.replace('−', '-').replaceAll(',', ''));
};

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

/** Opens the dock behind a button, does something in it, and folds it. */
export async function inDock(page: Page, name: string | RegExp, work: () => Promise<void>): Promise<void> {
  await page
    .getByRole('button', { name, exact: typeof name === 'string' })
    .first()
    .click();
  await expect(page.getByTestId('dock')).toBeVisible();
  await work();
  await page.getByTestId('dock').getByRole('button', { name: /^Fold/ }).click();
  await expect(page.getByTestId('dock')).toHaveCount(0);
}

/** Chooses from a list that opens. */
export async function choose(page: Page, label: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
  await expect(page.getByRole('listbox')).toHaveCount(0);
  // The list gives the focus back a turn later; a key pressed before that would open it again.
  await page.evaluate(() => new Promise((resolve) => setTimeout(resolve, 50)));
}

/** A place of the frame, as shares of it, in the page; of a shot of 320 × 180 px. */
export async function placeOf(page: Page, x: number, y: number): Promise<{ x: number; y: number }> {
  const picture = page.getByRole('application', { name: /^Picture through the camera/ });
  const box = (await picture.boundingBox())!;
  const scale = Number(await picture.getAttribute('data-scale'));
  return {
    x: box.x + box.width / 2 + (x - 0.5) * 320 * scale,
    y: box.y + box.height / 2 + (y - 0.5) * 180 * scale,
  };
}

/** A point of a frame of 320 × 180 px, from its upper left, in CSS px of the page. */
export async function onScreen(page: Page, x: number, y: number): Promise<{ x: number; y: number }> {
  const box = await page.getByTestId('picture').boundingBox();
  const scale = Number(
    await page.getByRole('application', { name: /through the camera/ }).getAttribute('data-scale'),
  );
  if (!box || !scale) throw new Error('no picture');
  return {
    x: box.x + box.width / 2 + (x - 160) * scale,
    y: box.y + box.height / 2 + (y - 90) * scale,
  };
}

/** Holds back every edit of a page on its way to the server, until the returned function is called. */
export async function holdEdits(page: Page): Promise<() => void> {
  let letThrough = () => {};
  const held = new Promise<void>((resolve) => {
    letThrough = resolve;
  });
  await page.route('**/ops', async (route) => {
    await held;
    await route.continue();
  });
  return letThrough;
}
