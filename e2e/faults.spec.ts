import sharp from 'sharp';
import { expect, test } from './app-server.ts';
import { jettyPainting } from './painting.ts';
import {
  artRow,
  fillNumber,
  goToStep,
  importJetty,
  jettyShot,
  land,
  makeShot,
  saved,
  standRow,
} from './steps.ts';

const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/octet-stream', buffer });
const png = (colour: string) =>
  sharp({ create: { width: 40, height: 30, channels: 4, background: colour } })
    .png()
    .toBuffer();

test('a file that cannot be read is named, and nothing is half done', async ({ page, app }) => {
  await makeShot(page, app.url, 'Bad files');
  await page.getByTestId('art-files').setInputFiles([file('notes.txt', Buffer.from('hello'))]);
  await expect(page.getByRole('alert')).toContainText(
    '“notes.txt” cannot be read: it is none of the formats that are read here.',
  );
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByText('Bring the painting')).toBeVisible();
  const [hill, rock] = [await png('#336699'), await png('#996633')];
  await page
    .getByTestId('art-files')
    .setInputFiles([
      file('hill.png', hill),
      file('cut.ora', (await jettyPainting()).subarray(0, 900)),
      file('rock.png', rock),
    ]);
  await expect(page.getByRole('alert')).toContainText('“cut.ora” cannot be read');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Bring the painting')).toBeVisible();
  await page
    .getByTestId('art-files')
    .setInputFiles([file('hill.png', hill), file('bad.png', Buffer.from('x')), file('rock.png', rock)]);
  // Both are of one size: the layers of one painting.
  await expect(page.getByRole('list', { name: 'Pictures in order' }).getByRole('listitem')).toHaveCount(2);
  await land(page);
  await expect(page.getByText('2 planes', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Bring the painting')).toBeVisible();
});

test('an import can be cancelled, and the next one works', async ({ page, app }) => {
  await makeShot(page, app.url, 'Cancel import');
  // A slow line: the file is still on its way when the artist thinks better of it.
  await page.route('**/api/art?*', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 4000));
    await route.continue().catch(() => {});
  });
  await page
    .getByTestId('art-files')
    .setInputFiles([file('hill.png', await png('#336699')), file('rock.png', await png('#996633'))]);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByText('Bring the painting')).toBeVisible();
  await page.unroute('**/api/art?*');
  await importJetty(page);
});

test('art may be dropped anywhere on the shot', async ({ page, app }) => {
  await makeShot(page, app.url, 'Drop');
  await goToStep(page, 'Stage');
  const bytes = [...(await png('#205080'))];
  const data = await page.evaluateHandle((content) => {
    const transfer = new DataTransfer();
    transfer.items.add(new File([new Uint8Array(content)], 'Dropped hill.png', { type: 'image/png' }));
    return transfer;
  }, bytes);
  const target = page.getByRole('region', { name: 'Stand' });
  await target.dispatchEvent('dragenter', { dataTransfer: data });
  await expect(page.getByText('Let go to look at the art')).toBeVisible();
  await target.dispatchEvent('drop', { dataTransfer: data });
  await land(page);
  await expect(standRow(page, 'Dropped hill')).toBeVisible();
});

test('edits made while the server is down are kept and sent when it is back, even from a closed tab', async ({
  page,
  app,
  context,
}) => {
  await jettyShot(page, app.url, 'Offline');
  await standRow(page, 'Jetty').click();
  await app.kill();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '50');
  await expect(page.getByText('Offline: kept here')).toBeVisible();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '60');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect(standRow(page, 'Jetty')).toHaveAccessibleName('Jetty, depth 50 px');
  await app.start();
  await saved(page);
  const address = page.url();
  await page.reload();
  await expect(standRow(page, 'Jetty')).toHaveAccessibleName('Jetty, depth 50 px');
  await standRow(page, 'Jetty').click();
  await app.kill();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '70');
  await expect(page.getByText('Offline: kept here')).toBeVisible();
  await page.close({ runBeforeUnload: false });
  await app.start();
  const later = await context.newPage();
  await later.goto(address);
  await expect(standRow(later, 'Jetty')).toHaveAccessibleName('Jetty, depth 70 px');
});

test('a tab that dies in the middle of an edit and of an import loses nothing, and leaves nothing half-way', async ({
  page,
  app,
  context,
}) => {
  await jettyShot(page, app.url, 'Killed tab');
  await standRow(page, 'Jetty').click();
  const depth = page.getByRole('textbox', { name: 'Depth', exact: true });
  await fillNumber(depth, '40');
  await saved(page);
  // Made, and on its way for as long as the tab lives.
  await page.route('**/ops', () => {});
  await fillNumber(depth, '55');
  // Half-way: pictures that are being sent.
  await page.route('**/api/art?*', () => {});
  await page
    .getByTestId('art-files')
    .setInputFiles([file('half.png', await png('#442266')), file('way.png', await png('#226644'))]);
  await expect(page.getByRole('heading', { name: 'Bringing in art' })).toBeVisible();
  const address = page.url();
  const devtools = await context.newCDPSession(page);
  const crashed = page.waitForEvent('crash');
  // It never answers: what would is gone.
  void devtools.send('Page.crash').catch(() => {});
  await crashed;
  await page.close();
  const later = await context.newPage();
  await later.goto(address);
  await expect(standRow(later, 'Jetty')).toHaveAccessibleName('Jetty, depth 55 px');
  await saved(later);
  await expect(later.getByRole('dialog')).toHaveCount(0);
  await expect(standRow(later, 'half')).toHaveCount(0);
  await later.reload();
  await expect(standRow(later, 'Jetty')).toHaveAccessibleName('Jetty, depth 55 px');
  await later.keyboard.press('Control+z');
  await expect(standRow(later, 'Jetty')).toHaveAccessibleName('Jetty, depth 40 px');
});

test('what the page computes with is asked for again where it cannot be loaded, and that is said', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'Away', { step: 'Art' });
  let away = true;
  await page.route(/\/assets\/([\w-]*worker[\w-]*\.js|kernel[\w-]*\.wasm)$/, (route) =>
    away ? route.abort() : route.continue(),
  );
  await page.goto(page.url().replace(/art$/, 'survey'));
  const told = (words: string) => page.getByRole('alert').filter({ hasText: words });
  await expect(told('The server does not answer. Trying again …')).toBeVisible();
  await expect(told('The shot could not be looked at: A part of the program could not')).toBeVisible();
  away = false;
  await expect(page.getByTestId('picture')).toHaveAttribute('data-art', 'ready');
  await expect(page.getByRole('alert')).toHaveCount(0);
  // The length of the shot stands elsewhere too: this is how long the survey took.
  await expect(page.getByRole('status').filter({ hasText: /^24 f · \d/ })).toBeVisible();
});

test('a hand-off can be cancelled', async ({ page, app }) => {
  await jettyShot(page, app.url, 'Cancel', { step: 'Hand-off', lengthFrames: 4000 });
  await page.getByRole('button', { name: 'Hand off 4,000 frames' }).click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Cancelled. What was rendered is kept for the next time.')).toBeVisible();
});

test('an edit that the server will not take is told with its reason and dropped; the shot opens and saves', async ({
  page,
  app,
}) => {
  await jettyShot(page, app.url, 'Refused', { step: 'Art' });
  // Until it has opened, the page itself would take up what is put there below.
  await expect(artRow(page, 'Jetty')).toBeVisible();
  const { pathname } = new URL(page.url());
  const shotId = pathname.split('/').find((part) => /^[0-9a-f-]{36}$/.test(part)) ?? '';
  // What an earlier version of the page may have left behind: a name with half of an emoji.
  const { revision, scene } = await (await page.request.get(`${app.url}/api/shots/${shotId}`)).json();
  await page.evaluate(
    ([shot, at, plane, name]) => {
      const path = `/planes/${plane}/name`;
      const patch = [
        { op: 'test', path, value: name },
        { op: 'replace', path, value: 'lamp\ud83c' },
      ];
      const author = JSON.parse(localStorage.getItem('keen-ridge/author') ?? 'null');
      const id = crypto.randomUUID();
      const entry = {
        id,
        action: 'rename-plane',
        subject: 'lamp',
        patch,
        author,
        at: new Date().toISOString(),
      };
      const unsent = { revision: at, ops: [{ opId: id, kind: 'edit', entry, patch }] };
      localStorage.setItem(`keen-ridge/unsent/${shot}/${crypto.randomUUID()}`, JSON.stringify(unsent));
    },
    [shotId, revision, scene.order[0], scene.planes[scene.order[0]].name] as const,
  );
  await page.reload();
  await expect(page.getByRole('alert')).toContainText(/could not be kept: .*half of a character/);
  await page.getByRole('button', { name: 'Understood' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await goToStep(page, 'Stage');
  await expect(standRow(page, 'Sheds')).toBeVisible();
  await standRow(page, 'Sheds').click();
  await fillNumber(page.getByRole('textbox', { name: 'Depth', exact: true }), '321');
  await saved(page);
  await page.reload();
  await expect(standRow(page, 'Sheds')).toHaveAccessibleName('Sheds, depth 321 px');
});
