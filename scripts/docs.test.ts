import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { REPOSITORY } from './lib/house.ts';

const PAGES = [
  'README.md',
  'CONTRIBUTING.md',
  'CHANGELOG.md',
  ...readdirSync(join(REPOSITORY, 'docs'))
    .filter((name) => name.endsWith('.md'))
    .map((name) => `docs/${name}`),
];
const pages = PAGES.map((page) => ({ page, text: readFileSync(join(REPOSITORY, page), 'utf8') }));
const found = (pattern: RegExp) =>
  pages.flatMap(({ page, text }) => [...text.matchAll(pattern)].map(([, path]) => ({ page, path: path! })));

describe('the documents', () => {
  it('name files that are there', () => {
    const named = found(
      /`((?:core|server|web|scripts|docs|e2e|bench|demo)\/[\w./-]+\.(?:ts|tsx|mjs|json))`/g,
    );
    expect(named.filter(({ path }) => !existsSync(join(REPOSITORY, path)))).toEqual([]);
    expect(named.length).toBeGreaterThan(35);
  });

  it('link to pages and pictures that are there', () => {
    const linked = found(/\]\((?!https?:)([^)#]+)\)/g);
    expect(linked.filter(({ page, path }) => !existsSync(join(REPOSITORY, dirname(page), path)))).toEqual([]);
    expect(linked.length).toBeGreaterThan(25);
  });

  it('follow a depth to its pixel in under eight files, none of them twice', () => {
    const { text } = pages.find(({ page }) => page === 'docs/architecture.md')!;
    const walk = text.slice(
      text.indexOf('## From a depth typed to a pixel'),
      text.indexOf('## From the scene'),
    );
    const stays = [...walk.matchAll(/^\d\. `([^`]+)`/gm)].map(([, path]) => path!);
    expect(stays.length).toBe(7);
    expect(new Set(stays).size).toBe(stays.length);
    expect([stays[0], stays.at(-1)]).toEqual([
      'web/stage/panel/depth-fields.tsx',
      'core/kernel/layer-table.ts',
    ]);
  });

  it('list every bench once', () => {
    const { text } = pages.find(({ page }) => page === 'CONTRIBUTING.md')!;
    const table = text.slice(text.indexOf('| `npm run bench --` |'), text.indexOf('## Add an edit'));
    const listed = [...table.matchAll(/^\| `([\w-]+)` \|/gm)].map(([, name]) => name!);
    const benches = readdirSync(join(REPOSITORY, 'bench'), { withFileTypes: true });
    const folders = benches.filter((entry) => entry.isDirectory() && entry.name !== 'node_modules');
    expect(listed.sort()).toEqual(folders.map(({ name }) => name).sort());
    expect(listed.length).toBeGreaterThan(10);
  });

  it('name scripts that package.json has', () => {
    const scripts = Object.keys(JSON.parse(readFileSync(join(REPOSITORY, 'package.json'), 'utf8')).scripts);
    const named = found(/npm run ([\w:-]+)/g);
    expect(named.filter(({ path }) => !scripts.includes(path))).toEqual([]);
    expect(named.length).toBeGreaterThan(10);
  });
});
