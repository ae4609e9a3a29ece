import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Browser, chromium, type Page } from '@playwright/test';
import { launchOptions } from '../../scripts/lib/chromium.mjs';
import { bigDocument } from '../import/document.ts';
import { drawWithCanvas } from './canvas-rival.ts';
import { type Program, startProgram } from './program.ts';

const PLANES = 60;
const DRAGS = 2;
const MOVES = 120;
const ROCK_MS = 4000;
/** Less than the shot of 96 frames takes, so that no frame comes twice. */
const PLAY_MS = 3500;
const VIEWPORTS = [
  { width: 1280, height: 800 },
  { width: 1920, height: 1080 },
] as const;

const median = (values: readonly number[]): number =>
  [...values].sort((p, q) => p - q)[Math.floor(values.length / 2)] ?? Number.NaN;

/** A shot of 60 painted layers of 4K, spread over the stage. */
async function openHeavyShot(page: Page, url: string): Promise<void> {
  const { file } = await bigDocument(PLANES);
  await page.goto(url);
  await page.getByRole('button', { name: 'New production' }).click();
  await page.getByLabel('Name').fill('Bench');
  await page.getByRole('button', { name: 'Make production' }).click();
  await page.getByRole('button', { name: 'New shot' }).click();
  await page.getByLabel('Name').fill('Sixty planes');
  await page.getByRole('button', { name: 'Make shot' }).click();
  await page.waitForURL(/\/art$/);
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-bench-'));
  writeFileSync(join(folder, 'sixty.ora'), file);
  await page.getByTestId('art-files').setInputFiles(join(folder, 'sixty.ora'));
  await page.getByRole('button', { name: 'Put on the stage' }).click({ timeout: 600_000 });
  await page.getByRole('link', { name: 'Stage', exact: true }).click();
  await page.getByRole('button', { name: 'Spread …' }).click();
  await page.getByRole('button', { name: `Spread ${PLANES}` }).click();
  await rests(page);
  rmSync(folder, { recursive: true });
}

const rests = (page: Page): Promise<void> =>
  page
    .locator('canvas[data-testid=picture][data-art=ready][data-resting=true]')
    .waitFor({ timeout: 300_000 });

/**
 * Gives the window another size and waits until the picture has it, at full quality. False where the page says that so
 * much art does not fit into its memory.
 */
async function resized(
  page: Page,
  viewport: { readonly width: number; readonly height: number },
): Promise<boolean> {
  await page.setViewportSize(viewport);
  await page.waitForFunction(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-testid=picture]');
    return canvas?.width === Math.round((canvas?.clientWidth ?? 0) * devicePixelRatio);
  });
  const isFull = page.getByText(/do not fit into the memory/).waitFor({ timeout: 300_000 });
  return Promise.any([rests(page).then(() => true), isFull.then(() => false)]);
}

/** Counts the script of the page's main thread, ms of the processor, not of the clock: render workers use the same cores. */
async function scriptClock(page: Page): Promise<() => Promise<number>> {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable', { timeDomain: 'threadTicks' });
  return async () => {
    const { metrics } = await devtools.send('Performance.getMetrics');
    return (metrics.find(({ name }) => name === 'ScriptDuration')?.value ?? Number.NaN) * 1000;
  };
}

/** Main-thread script for one pointer event of a depth drag, ms: everything that ran meanwhile, by Chromium's count. */
async function scriptPerEvent(page: Page): Promise<number> {
  const script = await scriptClock(page);
  const row = page.locator('[aria-label="Planes, near to far"] button[data-row]').nth(30);
  await row.scrollIntoViewIfNeeded();
  await row.click();
  const box = await row.boundingBox();
  if (!box) throw new Error('no row to drag');
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y + 10);
  await page.evaluate(() => {
    document.documentElement.dataset.moves = '0';
    window.addEventListener('pointermove', () => {
      const { dataset } = document.documentElement;
      dataset.moves = String(Number(dataset.moves) + 1);
    });
  });
  const before = await script();
  for (let i = 0; i < MOVES; i++) await page.mouse.move(x, y + 10 + 60 * Math.sin(i / 12));
  const after = await script();
  const events = await page.evaluate(() => Number(document.documentElement.dataset.moves));
  await page.mouse.up();
  await page.keyboard.press('Control+z');
  return (after - before) / events;
}

interface Played {
  readonly scriptMsPerFrame: number;
  readonly dropped: number;
  readonly frames: number;
}

/** The shot played once from its first frame to its last. */
async function playOnce(page: Page): Promise<Played> {
  const script = await scriptClock(page);
  await page.keyboard.press('Home');
  await rests(page);
  await page.evaluate(() => {
    const shown = document.querySelector('[data-testid=current-frame]');
    document.documentElement.dataset.played = '';
    const seen = new Set<string>();
    new MutationObserver(() => {
      seen.add(shown?.textContent ?? '');
      document.documentElement.dataset.played = [...seen].join(' ');
    }).observe(shown!, { childList: true, characterData: true, subtree: true });
  });
  const before = await script();
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await page.waitForTimeout(PLAY_MS);
  const after = await script();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  const played = await page.evaluate(() =>
    (document.documentElement.dataset.played ?? '').split(' ').map(Number),
  );
  const last = Math.max(...played);
  return {
    scriptMsPerFrame: (after - before) / played.length,
    frames: played.length,
    dropped: last - 1 - played.length,
  };
}

interface RockSpeed {
  readonly fps: number;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** Pictures a second while the camera rocks, and how large they were drawn in the end. */
async function rockSpeed(page: Page): Promise<RockSpeed> {
  const rock = page.getByRole('button', { name: 'Rock', exact: true });
  await rock.click();
  await page.waitForTimeout(1500);
  const measured = await page.evaluate(async (ms) => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-testid=picture]');
    const context = canvas?.getContext('2d');
    if (!canvas || !context) throw new Error('no picture');
    let drawn = 0;
    const put = context.putImageData.bind(context);
    Object.assign(context, {
      putImageData: (image: ImageData, x: number, y: number) => {
        drawn += 1;
        put(image, x, y);
      },
    });
    const start = performance.now();
    await new Promise((resolve) => setTimeout(resolve, ms));
    const fps = (drawn * 1000) / (performance.now() - start);
    Object.assign(context, { putImageData: put });
    return { fps, widthPx: canvas.width, heightPx: canvas.height };
  }, ROCK_MS);
  await rock.click();
  return measured;
}

/** `npm run bench -- interact`: a depth dragged and the stage rocked with 60 planes of 4K, in Chromium. */
export async function benchInteract(json: boolean): Promise<void> {
  let program: Program | null = null;
  let browser: Browser | null = null;
  try {
    program = await startProgram();
    browser = await chromium.launch(launchOptions);
    const page = await browser.newPage({ viewport: VIEWPORTS[0] });
    // The loader names functions by a helper of its own, which functions that run in the page lack.
    await page.addInitScript('globalThis.__name = (named) => named');
    await openHeavyShot(page, program.url);
    const drags: number[] = [];
    for (let i = 0; i < DRAGS; i++) {
      drags.push(await scriptPerEvent(page));
      await rests(page);
    }
    const played = await playOnce(page);
    await rests(page);
    const sizes = [];
    for (const viewport of VIEWPORTS) {
      const size = `${viewport.width} × ${viewport.height}`;
      if (!(await resized(page, viewport))) {
        console.log(
          `interact: in a window of ${size} the art of ${PLANES} planes does not fit; not measured`,
        );
        continue;
      }
      const rock = await rockSpeed(page);
      await rests(page);
      const { widthPx, heightPx } = rock;
      const canvas = await page.evaluate(drawWithCanvas, { count: PLANES, widthPx, heightPx, ms: ROCK_MS });
      sizes.push({
        viewport: size,
        ...rock,
        canvas,
        ratio: rock.fps / canvas,
      });
    }
    const result = { planes: PLANES, scriptMsPerPointerEvent: median(drags), played, rock: sizes };
    if (json) console.log(JSON.stringify(result, null, 2));
    else print(result);
  } finally {
    await browser?.close();
    await program?.stop();
  }
}

function print({
  planes,
  scriptMsPerPointerEvent,
  played,
  rock,
}: {
  planes: number;
  scriptMsPerPointerEvent: number;
  played: Played;
  rock: readonly (RockSpeed & { viewport: string; canvas: number; ratio: number })[];
}): void {
  console.log(`interact: ${planes} planes of 4K in Chromium`);
  console.log(
    `  dragging a depth: ${scriptMsPerPointerEvent.toFixed(2)} ms of main-thread script a pointer event`,
  );
  console.log(
    `  playing: ${played.scriptMsPerFrame.toFixed(2)} ms of main-thread script a played frame, ${played.dropped} of ${played.frames + played.dropped} frames not drawn`,
  );
  for (const { viewport, fps, widthPx, heightPx, canvas, ratio } of rock)
    console.log(
      `  rocking in a window of ${viewport}: ${fps.toFixed(1)} pictures a second at ${widthPx} × ${heightPx} px, ${ratio.toFixed(2)} times a plain 2D canvas with as many bitmaps (${canvas.toFixed(1)})`,
    );
}
