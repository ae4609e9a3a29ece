import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import {
  type Arrow,
  arrow,
  arrowsOf,
  circlesIn,
  REPOSITORY,
  roomOf,
  sourcesBelow,
  specifiersIn,
} from './lib/house.ts';

const WORKSPACES = ['core', 'server', 'web', 'demo', 'e2e', 'bench'] as const;

/** Workspaces that each workspace may import. */
const MAY: Readonly<Record<string, readonly string[]>> = {
  core: [],
  server: ['core', 'demo'],
  web: ['core'],
  demo: ['core'],
  e2e: ['core', 'scripts'],
  bench: ['core', 'server', 'demo', 'scripts'],
};

/** What each room of core may import, besides itself: rooms above it alone, so that imports run one way. */
const CORE: Readonly<Record<string, readonly string[]>> = {
  units: [],
  geometry: ['units'],
  image: ['units', 'geometry'],
  paint: ['units', 'geometry'],
  shapes: ['units', 'geometry'],
  timing: ['units', 'geometry', 'image', 'paint'],
  stage: ['units', 'geometry', 'image'],
  scene: ['units', 'paint', 'shapes', 'timing'],
  staging: ['units', 'geometry', 'image', 'paint', 'shapes', 'timing', 'stage', 'scene'],
  edits: ['units', 'geometry', 'image', 'paint', 'shapes', 'timing', 'stage', 'scene', 'staging'],
  history: ['units', 'scene', 'staging'],
  survey: ['units', 'geometry', 'image', 'paint', 'shapes', 'timing', 'stage', 'scene', 'staging', 'edits'],
  words: ['units', 'image', 'staging', 'survey'],
  picture: ['units', 'geometry', 'image', 'paint', 'shapes', 'scene', 'staging'],
  kernel: ['units', 'geometry', 'image', 'paint', 'scene', 'staging', 'picture'],
  pool: ['units', 'image', 'picture', 'kernel'],
  cut: ['units', 'geometry', 'image', 'scene'],
  art: ['units', 'geometry', 'image', 'paint', 'scene', 'staging', 'edits'],
  export: ['units', 'geometry', 'paint', 'timing', 'stage', 'scene', 'staging', 'edits'],
  contract: ['units', 'paint', 'scene', 'staging', 'edits', 'history', 'survey', 'art', 'export'],
};

const SERVER: Readonly<Record<string, readonly string[]>> = {
  faults: [],
  settings: [],
  db: ['faults'],
  people: ['faults', 'db'],
  access: ['faults', 'db', 'people'],
  film: ['faults'],
  storage: ['faults', 'db', 'art'],
  art: ['faults'],
  threads: ['faults', 'art', 'storage'],
  pictures: ['faults', 'db', 'film', 'storage', 'threads'],
  farm: ['faults', 'db', 'film', 'storage', 'threads', 'pictures'],
  handoff: ['faults', 'db', 'film', 'storage', 'threads', 'pictures', 'farm'],
  imports: ['faults', 'db', 'art', 'storage', 'threads'],
  shots: ['faults', 'db', 'people', 'art', 'film', 'storage'],
  survey: ['faults', 'db', 'art', 'film', 'storage', 'threads', 'pictures'],
  exports: ['faults', 'db', 'film', 'storage', 'pictures', 'survey'],
  routes: [
    'faults',
    'db',
    'people',
    'access',
    'art',
    'storage',
    'imports',
    'shots',
    'survey',
    'pictures',
    'handoff',
    'exports',
  ],
  cli: [
    'faults',
    'db',
    'people',
    'art',
    'storage',
    'film',
    'threads',
    'pictures',
    'farm',
    'handoff',
    'survey',
    'exports',
    'shots',
  ],
};

const SHARED = [
  'words',
  'api',
  'session',
  'ui',
  'commands',
  'viewport',
  'planes',
  'edits',
  'picture',
  'people',
];
const WEB: Readonly<Record<string, readonly string[]>> = {
  words: [],
  api: [],
  ui: ['words'],
  commands: ['words', 'ui'],
  viewport: ['words', 'ui'],
  session: ['api', 'ui'],
  cut: ['api'],
  planes: ['words', 'api', 'session', 'ui'],
  people: ['words', 'api', 'session', 'ui'],
  edits: ['words', 'api', 'session', 'ui', 'commands'],
  picture: ['words', 'api', 'session', 'ui', 'viewport'],
  views: SHARED,
  timeline: SHARED,
  'bring-in': [...SHARED, 'cut'],
  tour: ['session', 'ui'],
  wall: [...SHARED, 'tour'],
  reel: SHARED,
  art: [...SHARED, 'cut', 'bring-in'],
  stage: [...SHARED, 'bring-in', 'views', 'timeline'],
  move: [...SHARED, 'views', 'timeline'],
  look: [...SHARED, 'timeline'],
  survey: [...SHARED, 'timeline', 'cut'],
  handoff: SHARED,
  help: ['ui'],
  shot: [...SHARED, 'bring-in', 'tour'],
};
const ROOMS: Readonly<Record<string, typeof CORE>> = { core: CORE, server: SERVER, web: WEB };

const isTest = (path: string): boolean => /\.test\.tsx?$/.test(path) || roomOf(path) === 'testing';
const files = WORKSPACES.flatMap((name) => sourcesBelow(name));
const arrows = files.flatMap(arrowsOf);

/** Arrows between workspaces that may not be. */
const wrongBetween = (seen: readonly Arrow[]): Arrow[] =>
  seen.filter(({ from, to }) => {
    if (!to) return false;
    const [source, goal] = [from.split('/')[0] ?? '', to.split('/')[0] ?? ''];
    return source !== goal && !MAY[source]?.includes(goal);
  });

/** Arrows between rooms of one workspace that may not be. What lies in no room puts all together. */
const wrongWithin = (seen: readonly Arrow[]): Arrow[] =>
  seen.filter(({ from, to }) => {
    const workspace = from.split('/')[0] ?? '';
    const [source, goal] = [roomOf(from), to ? roomOf(to) : ''];
    if (!to?.startsWith(`${workspace}/`) || !ROOMS[workspace] || isTest(from) || source === '') return false;
    return source !== goal && !ROOMS[workspace][source]?.includes(goal);
  });

const PACKAGES_OF_CORE = new Set([
  'zod',
  'fast-json-patch',
  'fflate',
  'saxes',
  'ag-psd',
  'wasm-feature-detect',
  'crc-32',
  'lru-cache',
  '@gltf-transform/core',
  '@gltf-transform/extensions',
]);
/** What core may not see: Node, React, and what only tests use. */
const wrongOutside = (seen: readonly Arrow[]): Arrow[] =>
  seen.filter(
    ({ from, to, specifier }) =>
      from.startsWith('core/') &&
      !isTest(from) &&
      (to === null ? !PACKAGES_OF_CORE.has(specifier) : to.startsWith('core/testing')),
  );

const wrongSql = (seen: readonly Arrow[]): Arrow[] =>
  seen.filter(
    ({ from, specifier }) =>
      from.startsWith('server/') &&
      !from.startsWith('server/db/') &&
      !isTest(from) &&
      /^drizzle-orm/.test(specifier),
  );

describe('imports', () => {
  it('were all seen', () => {
    const inWorkspace = (name: string) => files.filter((file) => file.startsWith(`${name}/`)).length;
    expect(inWorkspace('core')).toBeGreaterThan(250);
    expect(inWorkspace('server')).toBeGreaterThan(100);
    expect(inWorkspace('web')).toBeGreaterThan(180);
    expect(arrows.length).toBeGreaterThan(2500);
    // Every one of them that names something here leads to a file that is there.
    const there = new Set(files);
    const code = arrows.filter(({ to }) => to && /\.tsx?$/.test(to));
    expect(code.filter(({ to }) => !there.has(to!))).toEqual([]);
    expect(code.length).toBeGreaterThan(2000);
  });

  it('run one way between workspaces', () => {
    expect(wrongBetween(arrows)).toEqual([]);
  });

  it.each(Object.keys(ROOMS))('run one way between the rooms of %s', (workspace) => {
    const own = arrows.filter(({ from }) => from.startsWith(`${workspace}/`));
    expect(wrongWithin(own)).toEqual([]);
    const rooms = files.filter((file) => file.startsWith(`${workspace}/`)).map(roomOf);
    expect([...new Set(rooms)].filter((room) => room !== '' && room !== 'testing').sort()).toEqual(
      Object.keys(ROOMS[workspace]!).sort(),
    );
    // The table itself leads nowhere back: whatever it allows runs one way too.
    const allowed = Object.entries(ROOMS[workspace]!).flatMap(([from, goals]) =>
      goals.map((to) => ({ from, specifier: to, to })),
    );
    expect(circlesIn(allowed)).toEqual([]);
  });

  it('make no circle, not even of types', () => {
    expect(circlesIn(arrows.filter(({ from }) => !isTest(from)))).toEqual([]);
  });

  it('leave Node, React and test helpers out of core', () => {
    expect(wrongOutside(arrows)).toEqual([]);
  });

  it('leave SQL to server/db', () => {
    expect(wrongSql(arrows)).toEqual([]);
  });
});

describe('rooms', () => {
  it('have no front door of over 60 names', () => {
    const doors = files.filter((file) => /^core\/.*\/index\.ts$/.test(file));
    const names = doors.map((file) => ({
      file,
      names: [...readFileSync(join(REPOSITORY, file), 'utf8').matchAll(/\{([^}]*)\}/g)].flatMap(([, inner]) =>
        inner!.split(',').filter((name) => name.trim() !== ''),
      ).length,
    }));
    expect(doors.length).toBeGreaterThan(40);
    expect(names.filter(({ names: count }) => count > 60)).toEqual([]);
    expect(names.filter(({ names: count }) => count === 0)).toEqual([]);
  });

  it('hold at most sixteen files beside each other', () => {
    const folders = new Map<string, number>();
    for (const file of files) {
      const folder = file.slice(0, file.lastIndexOf('/'));
      folders.set(folder, (folders.get(folder) ?? 0) + 1);
    }
    expect(folders.size).toBeGreaterThan(90);
    expect([...folders].filter(([folder, count]) => count > 16 && folder.includes('/'))).toEqual([]);
    expect(readdirSync(join(REPOSITORY, 'core')).filter((name) => name.endsWith('.ts'))).toEqual([]);
  });
});

describe('what is wrong', () => {
  it('is noticed, and only that', () => {
    expect(
      specifiersIn(
        "import { a } from '../pool/index.ts';\nexport type { B } from './b.ts';\nawait import('./c.ts');",
      ),
    ).toEqual(['../pool/index.ts', './b.ts', './c.ts']);
    const between = [
      arrow('core/units/a.ts', '../../server/app.ts'),
      arrow('web/main.tsx', '@keen-ridge/server/db'),
      arrow('server/app.ts', '../web/main.tsx'),
      arrow('demo/index.ts', '@keen-ridge/server'),
    ];
    const within = [
      arrow('core/units/a.ts', '../pool/index.ts'),
      arrow('core/stage/a.ts', '../staging/check/index.ts'),
      arrow('core/survey/a.ts', '../contract/index.ts'),
      arrow('server/db/wall.ts', '../routes/body.ts'),
      arrow('web/stage/a.tsx', '../move/move-page.tsx'),
      arrow('web/ui/button.tsx', '../session/session.ts'),
    ];
    const outside = [
      arrow('core/stage/a.ts', 'node:fs'),
      arrow('core/stage/a.ts', 'react'),
      arrow('core/stage/a.ts', '../testing/index.ts'),
    ];
    const sql = [
      arrow('server/routes/a.ts', 'drizzle-orm'),
      arrow('server/shots/a.ts', 'drizzle-orm/pg-core'),
    ];
    const right = [
      arrow('core/kernel/a.ts', '../units/index.ts'),
      arrow('server/app.ts', '@keen-ridge/core/units'),
      arrow('server/db/a.ts', 'drizzle-orm'),
      arrow('core/stage/a.test.ts', 'node:fs'),
      arrow('core/units/a.ts', 'zod'),
      arrow('web/main.tsx', './stage/stage-page.tsx'),
    ];
    const all = [...between, ...within, ...outside, ...sql, ...right];
    expect(wrongBetween(all)).toEqual(between);
    expect(wrongWithin(all)).toEqual([...within, ...outside.slice(2)]);
    expect(wrongOutside(all)).toEqual(outside);
    expect(wrongSql(all)).toEqual(sql);
  });

  it('is a circle, of two files or of three by way of a front door', () => {
    const line = [arrow('web/a.ts', './b.ts'), arrow('web/b.ts', './c.ts'), arrow('web/a.ts', './c.ts')];
    expect(circlesIn(line)).toEqual([]);
    expect(circlesIn([...line, arrow('web/b.ts', './a.ts')])).toEqual([['web/a.ts', 'web/b.ts']]);
    const door = [
      arrow('core/x/a.ts', '../y/index.ts'),
      arrow('core/y/index.ts', './b.ts'),
      arrow('core/y/b.ts', '../x/a.ts'),
    ];
    expect(circlesIn([...line, ...door])).toEqual([['core/x/a.ts', 'core/y/b.ts', 'core/y/index.ts']]);
    expect(circlesIn([arrow('web/a.ts', './a.ts')])).toEqual([['web/a.ts']]);
  });
});
