// Takes the pictures of docs/screenshots from a running npm start, made from the demo data.
import { mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { launchOptions } from './lib/chromium.mjs';
import { dataFolder, repository } from './lib/folders.mjs';

const { url } = JSON.parse(readFileSync(join(dataFolder(), 'running.json'), 'utf8'));
/** The newest painting of its kind that the start painted, from its cache. */
const readPainted = (ending) => {
  const cache = join(repository, '.cache/demo');
  const names = readdirSync(cache).filter((name) => name.endsWith(ending));
  const newest = names.sort((p, q) => statSync(join(cache, q)).mtimeMs - statSync(join(cache, p)).mtimeMs)[0];
  return readFileSync(join(cache, newest));
};

const folder = join(repository, 'docs/screenshots');
mkdirSync(folder, { recursive: true });
const browser = await chromium.launch(launchOptions);
// The same name in every picture, whenever it is taken.
const artist = { id: 'ines', name: 'Ines' };
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript(
  (author) => localStorage.setItem('keen-ridge/author', JSON.stringify(author)),
  artist,
);
const take = async (name) => {
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(folder, `${name}.png`) });
};
const fold = () => page.getByTestId('dock').getByRole('button', { name: /^Fold/ }).click();
const step = (name) =>
  page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name, exact: true }).click();

await page.goto(url);
await page.waitForFunction(
  () =>
    document.images.length > 1 &&
    [...document.images].every((image) => image.complete && image.naturalWidth > 0),
);
// Every shot has been looked at.
await page.getByRole('img', { name: 'Nothing would go wrong' }).nth(2).waitFor({ timeout: 60_000 });
await take('wall');
await page.getByRole('link', { name: 'Open 010 Quay at lamp-lighting' }).click();
await page.locator('canvas[data-art=ready][data-resting=true]').waitFor();
for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
await page.getByRole('button', { name: /^Quay houses, depth/ }).click();
await take('stage');
await page.getByRole('button', { name: 'Around', exact: true }).click();
await page.getByRole('button', { name: 'Camera beside the other' }).click();
await page.locator('canvas[data-testid=around][data-cards="11"]').waitFor();
await page.locator('canvas[data-testid=picture][data-art=ready][data-resting=true]').waitFor();
await take('around');
await page.getByRole('button', { name: 'Camera', exact: true }).click();
await page.keyboard.press('Escape');
// Fifteen planes: the strips of another shot brought in beside the others; undone again.
await page.getByTestId('art-files').setInputFiles({
  name: 'sea-wall-strips.ora',
  mimeType: 'application/octet-stream',
  buffer: readPainted('.strips.ora'),
});
await page.getByRole('button', { name: 'Put on the stage' }).click();
await page.getByText('16 planes', { exact: true }).waitFor();
await page.getByRole('button', { name: 'Spread …' }).click();
await page.locator('canvas[data-testid=picture][data-art=ready][data-resting=true]').waitFor();
await take('fifteen');
await page.getByTestId('dock').getByRole('button', { name: 'Cancel' }).click();
await page.keyboard.press('Control+z');
await page.getByText('11 planes', { exact: true }).waitFor();
await step('Move');
await page.locator('canvas[data-art=ready][data-resting=true]').waitFor();
await page.getByTestId('span-camera/panX-1').click();
await page.keyboard.press('Home');
// The gull's part is played by the moored boats here: ridden by the simulated pen.
await page
  .getByRole('application')
  .first()
  .click({ position: { x: 640, y: 262 } });
await page.getByRole('button', { name: 'Ride', exact: true }).click();
await page.getByRole('button', { name: 'Slow wave' }).click();
await page
  .getByRole('button', { name: /^Moored boats Place E–W key at frame/ })
  .first()
  .waitFor({ timeout: 30_000 });
await fold();
await page.keyboard.press('Escape');
await page.getByTestId('span-camera/panX-1').click();
for (let i = 0; i < 2; i++) await page.keyboard.press('Shift+ArrowRight');
await page.locator('canvas[data-testid=picture][data-art=ready][data-resting=true]').waitFor();
await take('move');
await page.getByRole('button', { name: 'Curves', exact: true }).click();
await page.locator('[data-testid=curves] canvas').first().waitFor();
await take('curves');
await page.keyboard.press('Control+z');
await page.keyboard.press('Escape');
await page.getByRole('button', { name: 'Fielding', exact: true }).click();
await page.getByRole('button', { name: 'Camera beside the other' }).click();
await page.keyboard.press('Home');
for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
const drag = async (target, dx, dy) => {
  const box = await target.boundingBox();
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + dx, box.y + box.height / 2 + dy, { steps: 8 });
  await page.mouse.up();
};
await drag(page.getByTestId('field-51-label'), 10, 26);
await page.locator('canvas[data-testid=picture][data-art=ready][data-resting=true]').waitFor();
await take('move-fielding');
for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
await page.getByRole('button', { name: 'Track', exact: true }).click();
await page.getByRole('button', { name: 'Make it a track' }).click();
await page.getByRole('button', { name: 'Bend here' }).click();
await fold();
await page.keyboard.press('Escape');
await drag(page.getByRole('button', { name: /^Bend 2 of the path$/ }).first(), 14, 34);
await page.getByRole('button', { name: 'Fielding', exact: true }).click();
await page.getByRole('button', { name: 'From above beside the other' }).click();
await page.locator('canvas[data-testid=fielding][data-art=ready][data-resting=true]').waitFor();
await take('track');
for (let i = 0; i < 12; i++) await page.keyboard.press('Control+z');
await page.getByRole('button', { name: 'Camera', exact: true }).click();
await step('Look');
await page.keyboard.press('Home');
for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
const lights = page.getByRole('list', { name: 'Planes, near to far, with their light' });
await lights.getByRole('button', { name: /^Quay houses, / }).click();
const number = async (label, value) => {
  await page.getByTestId('dock').getByRole('textbox', { name: label, exact: true }).fill(value);
  await page.keyboard.press('Enter');
};
await page.getByRole('button', { name: 'Add air' }).click();
await number('Seen to', '60000');
await number('Glow', '12');
await number('Vignette', '18');
await page.locator('canvas[data-testid=picture][data-art=ready][data-resting=true]').waitFor();
await take('looks');
for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
await page.keyboard.press('Home');
for (let i = 0; i < 2; i++) await page.keyboard.press('Shift+ArrowRight');
await page.getByTestId('span-camera/focus-14').click();
await lights.getByRole('button', { name: /^Lamplighter, / }).click();
await page.getByTestId('span-camera/focus-14').click();
await page.locator('canvas[data-testid=picture][data-art=ready][data-resting=true]').waitFor();
// What was undone is told for a while, over the strip, and for as long as the pointer is on it.
await page.mouse.move(640, 60);
await page.locator('[data-sonner-toast]').first().waitFor({ state: 'detached' });
await take('focus-pull');
await page.keyboard.press('Escape');
await step('Hand-off');
for (const kind of [/PNG frames/, /MP4 film/, /Contact sheet/, /WebM film/]) {
  await page.getByRole('radio', { name: kind }).click();
  await page.getByRole('button', { name: /^Hand off/ }).click();
  await page.waitForTimeout(400);
}
await page.getByRole('radio', { name: /PNG frames/ }).click();
await page
  .getByRole('region', { name: 'Hand-offs' })
  .getByText(/ left$/)
  .first()
  .waitFor({ timeout: 60_000 });
await take('hand-off');
for (const cancel of (await page.getByRole('button', { name: 'Cancel' }).all()).reverse())
  await cancel.click();
const shotId = /shots\/([^/]+)/.exec(page.url())[1];
const sheet = await (await fetch(`${url}/api/shots/${shotId}/export?as=sheet-svg`)).text();
const paper = await browser.newPage({ viewport: { width: 1188, height: 840 } });
await paper.setContent(
  `<body style="margin:0">${sheet.replace(/ width="[^"]*mm" height="[^"]*mm"/, ' width="1188"')}</body>`,
);
await paper.waitForTimeout(1500);
await paper.screenshot({ path: join(folder, 'camera-sheet.png') });
await paper.close();
await page.goto(url);
await page.getByRole('link', { name: 'Open 040 Net loft, rain coming' }).click();
await step('Survey');
await page.locator('[data-old="false"] article').first().waitFor({ timeout: 60_000 });
await page.getByTestId('finding-edge').getByRole('button').first().click();
await page.locator('canvas[data-art=ready][data-resting=true]').waitFor();
await page.locator('fieldset[aria-busy=false]').waitFor();
await take('survey');
await page.getByRole('radio', { name: 'On the art' }).click();
await page.getByTestId('finding-reveal').getByRole('button').first().click();
await page.locator('[data-testid=on-the-art][data-ready=true]').waitFor();
await take('survey-art');
await page.getByRole('button', { name: 'Paint list …' }).click();
await take('paint-list');
await page.keyboard.press('Escape');
await page.getByRole('radio', { name: 'Through the camera' }).click();
await page.goto(url);
await page.getByRole('link', { name: 'Open 030 Mail cart along the sea wall' }).click();
await page.locator('canvas[data-testid=picture][data-art=ready][data-resting=true]').waitFor();
await page.getByRole('button', { name: 'Loop closes' }).click();
await page.locator('canvas[data-testid=picture][data-art=ready][data-resting=true]').waitFor();
await take('loop');
await page.goto(url);
await page.getByRole('link', { name: 'Open 020 Cliff railway' }).click();
await step('Art');
await page.locator('canvas[data-art=ready][data-resting=true]').waitFor();
for (let i = 0; i < 6; i++) await page.keyboard.press('Shift+ArrowRight');
await page.getByRole('button', { name: 'Lamp flicker', exact: true }).click();
await take('art');
const painting = readPainted('.psd');
await page.getByTestId('art-files').setInputFiles({
  name: 'cliff-railway-evening.psd',
  mimeType: 'application/octet-stream',
  buffer: painting,
});
await page.getByRole('heading', { name: 'Look before it lands' }).waitFor();
// A page that hears of its shot is never without a request.
await page.waitForFunction(() => [...document.images].every((image) => image.complete));
await take('look');
await page.getByRole('button', { name: 'Cancel', exact: true }).click();
await page.getByRole('button', { name: 'Cliff', exact: true }).click();
await page.getByRole('link', { name: 'Cut …', exact: true }).click();
await page.getByTestId('cut-picture').waitFor();
await page.waitForTimeout(800);
const box = await page.getByTestId('cut-picture').boundingBox();
await page.mouse.move(box.x + box.width * 0.2, box.y + box.height * 0.3);
await page.mouse.down();
for (let k = 0; k <= 60; k++) {
  const angle = (k / 60) * 2 * Math.PI;
  const reach = 0.12 + 0.012 * Math.sin(3 * angle) + 0.006 * Math.cos(7 * angle);
  await page.mouse.move(
    box.x + box.width * (0.34 + 1.6 * reach * Math.cos(angle + Math.PI)),
    box.y + box.height * (0.3 + reach * Math.sin(angle + Math.PI)),
  );
}
await page.mouse.up();
await take('cutting');
await browser.close();
