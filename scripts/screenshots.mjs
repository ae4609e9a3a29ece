// Takes the pictures of docs/screenshots from a running npm start, made from the demo data.
import { mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { dataFolder, repository } from './lib/folders.mjs';

const { url } = JSON.parse(readFileSync(join(dataFolder(), 'running.json'), 'utf8'));
const folder = join(repository, 'docs/screenshots');
mkdirSync(folder, { recursive: true });
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const take = async (name) => {
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(folder, `${name}.png`) });
};
const step = (name) =>
  page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name, exact: true }).click();

await page.goto(url);
await page.waitForFunction(() =>
  [...document.images].every((image) => image.complete && image.naturalWidth > 0),
);
await take('wall');
await page.getByRole('link', { name: 'Open 010 Quay at lamp-lighting' }).click();
await page.locator('canvas[data-art=ready][data-resting=true]').waitFor();
for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
await page.getByRole('button', { name: /^Quay houses, depth/ }).click();
await take('stage');
await step('Move');
await page.locator('canvas[data-art=ready][data-resting=true]').waitFor();
await page.getByTestId('span-panX-1').click();
await take('move');
await step('Hand-off');
await take('hand-off');
await step('Art');
await take('art');
await browser.close();
