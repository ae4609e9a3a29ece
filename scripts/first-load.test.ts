import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gunzipSync } from 'node:zlib';
import { expect, it } from 'vitest';

const DIST = fileURLToPath(new URL('../web/dist', import.meta.url));

/** The scripts that a page names. */
function namedBy(page: string): string[] {
  const html = readFileSync(join(DIST, page), 'utf8');
  return [...html.matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map(([, path]) => path!);
}

it('waits for less than 250 kB of script, gzipped, before the wall is there', () => {
  // Built by npm test and npm start; the page names what it imports, through however many files.
  const files = namedBy('index.html');
  const sizes = files.map((path) => statSync(join(DIST, `${path}.gz`)).size);
  expect(sizes.reduce((sum, size) => sum + size, 0)).toBeLessThan(250_000);
});

it.each(['index.html', 'shot.html'])('%s names all script that it waits for, in few files', (page) => {
  const named = namedBy(page);
  expect(named.length).toBeLessThan(6);
  const imported = named.flatMap((path) => {
    const script = readFileSync(join(DIST, path), 'utf8');
    return [...script.matchAll(/(?:from|import)"\.\/([^"]+\.js)"/g)].map(([, file]) => `/assets/${file}`);
  });
  expect(imported).not.toEqual([]);
  expect(named).toEqual(expect.arrayContaining(imported));
});

it('names the script of a shot in the page of one alone', () => {
  const more = namedBy('shot.html').filter((path) => !namedBy('index.html').includes(path));
  expect(more.map((path) => path.replace(/-.*/, ''))).toEqual(['/assets/shot']);
});

it('has the gzipped form of every script, style and kernel beside it', () => {
  const assets = readdirSync(join(DIST, 'assets'));
  const files = assets.filter((name) => /\.(js|css|wasm)$/.test(name));
  expect(files.length).toBeGreaterThan(10);
  for (const name of files) {
    const [plain, packed] = [name, `${name}.gz`].map((one) => readFileSync(join(DIST, 'assets', one)));
    expect(gunzipSync(packed!).equals(plain!)).toBe(true);
  }
});
