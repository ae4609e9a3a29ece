import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
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
  const sizes = files.map((path) => gzipSync(readFileSync(join(DIST, path)), { level: 9 }).length);
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
