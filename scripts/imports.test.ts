import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';

const REPOSITORY = fileURLToPath(new URL('..', import.meta.url));
const WORKSPACES = ['core', 'server', 'web', 'demo', 'e2e', 'bench'] as const;

/** What each folder of core may import, besides itself. Import runs one way down this list. */
const CORE_MAY: Readonly<Record<string, readonly string[]>> = {
  units: [],
  geometry: ['units'],
  image: ['units', 'geometry'],
  look: ['units', 'geometry'],
  shapes: ['units', 'geometry'],
  timing: ['units', 'geometry', 'image'],
  stage: ['units', 'geometry', 'image'],
  scene: ['units', 'look', 'shapes'],
  document: ['units', 'geometry', 'image', 'look', 'shapes', 'timing', 'stage', 'scene'],
  shot: ['units', 'geometry', 'image', 'look', 'timing', 'stage', 'document', 'scene'],
  history: ['units', 'document', 'scene'],
  survey: ['units', 'geometry', 'image', 'timing', 'stage', 'document', 'scene', 'shot'],
  render: ['units', 'geometry', 'image', 'look', 'shapes', 'timing', 'stage', 'document', 'scene', 'shot'],
  cut: ['units', 'geometry', 'image', 'document', 'scene'],
  art: ['units', 'geometry', 'image', 'document', 'scene'],
  export: ['units', 'geometry', 'timing', 'document', 'scene', 'shot'],
  contract: ['units', 'document', 'scene', 'history', 'art', 'export'],
};

/** Workspaces that each workspace may import. */
const MAY: Readonly<Record<string, readonly string[]>> = {
  core: [],
  server: ['core', 'demo'],
  web: ['core'],
  demo: ['core'],
  e2e: ['core'],
  bench: ['core', 'server', 'demo'],
};

function sourceFiles(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory())
      return ['node_modules', 'dist', 'assembly', 'results'].includes(entry.name) ? [] : sourceFiles(path);
    return /\.(ts|tsx)$/.test(entry.name) ? [path] : [];
  });
}

const importsOf = (text: string): string[] =>
  [
    ...text.matchAll(
      /(?:^|\n)\s*(?:import|export)\b[^'"`;]*?from\s*['"]([^'"]+)['"]|(?:^|\n)\s*import\s*['"]([^'"]+)['"]|\bimport\(\s*['"]([^'"]+)['"]\s*\)/g,
    ),
  ].map((match) => match[1] ?? match[2] ?? match[3] ?? '');

/** An import as a path from the repository's root, or null for a package. */
function target(file: string, specifier: string): string | null {
  const own = /^@keen-ridge\/([^/]+)(?:\/(.*))?$/.exec(specifier);
  if (own) return `${own[1]}/${own[2] ?? ''}`;
  return specifier.startsWith('.') ? relative(REPOSITORY, resolve(dirname(file), specifier)) : null;
}

const isTest = (path: string): boolean =>
  /\.test\.ts$/.test(path) || path.startsWith('core/testing/') || path.startsWith('server/testing/');
const files = WORKSPACES.flatMap((name) => sourceFiles(join(REPOSITORY, name)));
const arrows = files.flatMap((file) => {
  const from = relative(REPOSITORY, file);
  return importsOf(readFileSync(file, 'utf8')).map((specifier) => ({
    from,
    specifier,
    to: target(file, specifier),
  }));
});

type Arrow = (typeof arrows)[number];

/** Arrows between workspaces that may not be. */
const wrongBetween = (seen: readonly Arrow[]): Arrow[] =>
  seen.filter(({ from, to }) => {
    if (!to) return false;
    const [source, goal] = [from.split('/')[0] ?? '', to.split('/')[0] ?? ''];
    return source !== goal && !MAY[source]?.includes(goal);
  });

/** Arrows between folders of core that may not be. */
const wrongWithin = (seen: readonly Arrow[]): Arrow[] =>
  seen.filter(({ from, to }) => {
    if (!from.startsWith('core/') || !to?.startsWith('core/') || isTest(from)) return false;
    const [source, goal] = [from.split('/')[1] ?? '', to.split('/')[1] ?? ''];
    return source !== goal && !CORE_MAY[source]?.includes(goal);
  });

const PACKAGES_OF_CORE = new Set([
  'zod',
  'fast-json-patch',
  'fflate',
  'saxes',
  'ag-psd',
  'wasm-feature-detect',
]);
/** What core may not see: Node, React, and what only tests use. */
const wrongOutside = (seen: readonly Arrow[]): Arrow[] =>
  seen.filter(
    ({ from, to, specifier }) =>
      from.startsWith('core/') &&
      !isTest(from) &&
      (to === null ? !PACKAGES_OF_CORE.has(specifier) : to.startsWith('core/testing')),
  );

describe('imports', () => {
  it('were all seen', () => {
    expect(files.length).toBeGreaterThan(150);
    expect(arrows.length).toBeGreaterThan(500);
    expect(arrows.filter(({ to }) => to?.startsWith('core/')).length).toBeGreaterThan(250);
  });

  it('run one way between workspaces', () => {
    expect(wrongBetween(arrows)).toEqual([]);
  });

  it('run one way within core', () => {
    expect(wrongWithin(arrows)).toEqual([]);
    const folders = new Set(
      files
        .map((file) => relative(REPOSITORY, file).split('/'))
        .filter(([top]) => top === 'core')
        .map((parts) => parts[1]),
    );
    expect([...folders].sort()).toEqual([...Object.keys(CORE_MAY), 'testing'].sort());
  });

  it('leave Node, React and test helpers out of core', () => {
    expect(wrongOutside(arrows)).toEqual([]);
  });

  it('are noticed where they are wrong, and only there', () => {
    expect(
      importsOf(
        "import { a } from '../render/index.ts';\nexport type { B } from './b.ts';\nawait import('./c.ts');",
      ),
    ).toEqual(['../render/index.ts', './b.ts', './c.ts']);
    const arrow = (from: string, specifier: string): Arrow => ({
      from,
      specifier,
      to: target(join(REPOSITORY, from), specifier),
    });
    const wrong = {
      between: [
        arrow('core/units/a.ts', '../../server/app.ts'),
        arrow('web/main.tsx', '@keen-ridge/server/db'),
        arrow('server/app.ts', '../web/main.tsx'),
        arrow('demo/index.ts', '@keen-ridge/server'),
      ],
      within: [
        arrow('core/units/a.ts', '../render/index.ts'),
        arrow('core/stage/a.ts', '@keen-ridge/core/document'),
        arrow('core/survey/a.ts', '../contract/index.ts'),
      ],
      outside: [
        arrow('core/stage/a.ts', 'node:fs'),
        arrow('core/stage/a.ts', 'react'),
        arrow('core/stage/a.ts', '../testing/index.ts'),
      ],
    };
    const right = [
      arrow('core/render/a.ts', '../units/index.ts'),
      arrow('server/app.ts', '@keen-ridge/core/units'),
      arrow('core/stage/a.test.ts', 'node:fs'),
      arrow('core/units/a.ts', 'zod'),
    ];
    const all = [...wrong.between, ...wrong.within, ...wrong.outside, ...right];
    expect(wrongBetween(all)).toEqual(wrong.between);
    expect(wrongWithin(all)).toEqual([...wrong.within, ...wrong.outside.slice(2)]);
    expect(wrongOutside(all)).toEqual(wrong.outside);
  });
});
