import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import type { ArtTask } from '../art/art-tasks.ts';
import { type KeptImage, stagedPng } from '../art/keep-image.ts';
import { openRasterOf, solidPng } from '../testing/art.ts';
import { type ArtLimits, ArtProcesses, type ArtTaskHooks } from './art-processes.ts';

const home = mkdtempSync(join(tmpdir(), 'keen-ridge-processes-'));
const levels = join(home, 'levels');
const opened: ArtProcesses[] = [];
const open = (limits: Partial<ArtLimits> = {}): ArtProcesses => {
  const processes = new ArtProcesses(levels, limits);
  opened.push(processes);
  return processes;
};
const usual = open();
afterAll(() => {
  for (const processes of opened) processes.close();
  rmSync(home, { recursive: true, force: true });
});

let count = 0;
const fileOf = (bytes: Uint8Array | string): string => {
  const path = join(home, `file-${count++}`);
  writeFileSync(path, bytes);
  return path;
};
const folderOf = (): string => {
  const folder = join(home, `task-${count++}`);
  mkdirSync(folder);
  return folder;
};
const run = (
  task: ArtTask,
  {
    hooks = {},
    by = usual,
    folder = folderOf(),
  }: { hooks?: Partial<ArtTaskHooks>; by?: ArtProcesses; folder?: string } = {},
) => by.run({ task, folder }, { onImage: () => {}, ...hooks });
const read = (fileName: string, bytes: Uint8Array | string) => ({
  kind: 'read' as const,
  fileName,
  path: fileOf(bytes),
  svgScale: 1,
});

/** A noise filter over so many px that its renderer is busy for a minute and more. */
const SLOW_SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="6000" height="6000"><filter id="f"><feTurbulence
  baseFrequency="0.1" numOctaves="100000"/></filter><rect width="6000" height="6000" filter="url(#f)"/></svg>`;
/** Processes of this machine that read images for this very folder. */
const alive = (): number =>
  readdirSync('/proc').filter((pid) => {
    if (!/^\d+$/.test(pid)) return false;
    try {
      return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(levels);
    } catch {
      // It ended while it was looked at.
      return false;
    }
  }).length;

/** A program of its own that starts processes for images and does `then` with them. */
const starting = (then: string) =>
  spawn(
    process.execPath,
    [
      '--input-type=module',
      '-e',
      `import { register } from 'tsx/esm/api'; register();
      const { ArtProcesses } = await import('${new URL('./art-processes.ts', import.meta.url)}');
      const processes = new ArtProcesses('${levels}'); ${then} setInterval(() => {}, 1000);`,
    ],
    { cwd: fileURLToPath(new URL('.', import.meta.url)), stdio: ['ignore', 'pipe', 'inherit'] },
  );

describe('the processes for images', () => {
  it('read a document, tell how far they are, leave every image as a file and its levels', async () => {
    const pngs = await Promise.all([1, 2, 3, 4].map((i) => solidPng(40 * i, 30, { r: 50 * i, g: 9, b: 9 })));
    const file = openRasterOf(
      pngs.map((png, i) => ({ name: `L${i}`, png, x: 0, y: 0 })),
      200,
      30,
    );
    const images: KeptImage[] = [];
    const seen: number[] = [];
    const folder = folderOf();
    const result = await run(read('four.ora', file), {
      folder,
      hooks: {
        onImage: (image) => images.push(image),
        onProgress: (done, total) => {
          expect(total).toBe(4);
          seen.push(done);
        },
      },
    });
    expect(result).toMatchObject({ ok: true, value: { kind: 'paintings' } });
    expect(seen.at(-1)).toBe(4);
    expect(images.map(({ art }) => art.widthPx).sort((p, q) => p - q)).toEqual([40, 80, 120, 160]);
    for (const { art } of images) {
      const png = readFileSync(join(folder, stagedPng(art.id)));
      expect(pngs.some((one) => Buffer.from(one).equals(png))).toBe(true);
      expect(existsSync(join(levels, `${art.id}.levels`))).toBe(true);
    }
  });

  it('go on after a file that cannot be read', async () => {
    const good = await solidPng(8, 8, { r: 1, g: 2, b: 3 });
    const results = await Promise.all([
      run(read('a.png', good)),
      run(read('b.png', new Uint8Array([1, 2, 3]))),
      run(read('c.png', good)),
    ]);
    expect(results.map(({ ok }) => ok)).toEqual([true, false, true]);
  });

  it('are killed with a task that is cancelled, native work and all; others go on meanwhile', async () => {
    const good = await solidPng(9, 9, { r: 4, g: 5, b: 6 });
    const abort = new AbortController();
    const drawing: string[] = [];
    const slow = [1, 2, 3, 4].map((n) =>
      run(read(`slow-${n}.svg`, SLOW_SVG), { hooks: { signal: abort.signal } }).catch((error: Error) => {
        drawing.push(error.message);
      }),
    );
    await new Promise((resolve) => setTimeout(resolve, 2500));
    abort.abort(new Error('given up'));
    await Promise.all(slow);
    expect(drawing).toEqual(Array.from({ length: 4 }, () => 'given up'));
    expect((await run(read('good.png', good))).ok).toBe(true);
    // Those that drew are gone, not merely let go of: at most one stands ready for each that may run at once.
    await expect.poll(alive, { timeout: 60_000 }).toBeLessThanOrEqual(2);
    await expect(
      run(read('x.png', good), { hooks: { signal: AbortSignal.abort(new Error('too late')) } }),
    ).rejects.toThrow('too late');
  });

  it('end a drawing that takes too long, and say so', async () => {
    const result = await run(read('slow.svg', SLOW_SVG), { by: open({ drawingMs: 1500 }) });
    expect(result).toMatchObject({
      ok: false,
      error: { code: 'too-heavy', detail: 'drawing it took more than 2 s' },
    });
  });

  it('never take more memory than they may, however much a file asks for', async () => {
    const small = open({ bytes: 600 * 2 ** 20 });
    // 12 000 × 12 000 px are 576 MB unpacked, and as much again while they are looked through.
    const bomb = await sharp({ create: { width: 12_000, height: 12_000, channels: 4, background: '#123' } })
      .png()
      .toBuffer();
    const result = await run(read('bomb.png', new Uint8Array(bomb)), { by: small });
    expect(result).toMatchObject({ ok: false, error: { code: 'too-heavy' } });
    // The same file is no bomb to one that may take it, and the next file finds a fresh process.
    expect((await run(read('ok.png', await solidPng(5, 5, { r: 1, g: 1, b: 1 })), { by: small })).ok).toBe(
      true,
    );
  });

  it('start anew after one was killed while nobody waited for it', async () => {
    const own = open();
    const png = await solidPng(7, 7, { r: 9, g: 9, b: 9 });
    expect((await run(read('one.png', png), { by: own })).ok).toBe(true);
    for (const child of own.idleIds) process.kill(child, 'SIGKILL');
    await expect.poll(() => own.idleIds.length).toBe(0);
    expect((await run(read('two.png', png), { by: own })).ok).toBe(true);
  });

  it('end by themselves where whoever started them is killed, even while they still load', {
    timeout: 180_000,
  }, async () => {
    const before = alive();
    for (const wait of [0, 50, 3000]) {
      const parent = starting("processes.warm(); console.log('warm');");
      await once(parent.stdout, 'data');
      await new Promise((resolve) => setTimeout(resolve, wait));
      parent.kill('SIGKILL');
      await expect.poll(alive).toBeLessThanOrEqual(before);
    }
  });

  it.each(['the task is given up', 'whoever started them is killed'])(
    'leave nothing half-written where %s while levels are made',
    { timeout: 180_000 },
    async (end) => {
      // Noise, which is slow to pack.
      const side = 2400;
      const large = await sharp(randomBytes(side * side * 3), {
        raw: { width: side, height: side, channels: 3 },
      })
        .png({ compressionLevel: 0 })
        .toBuffer();
      const task = read('large.png', new Uint8Array(large));
      const folder = folderOf();
      const parts = () => readdirSync(levels).filter((name) => name.endsWith('.part'));
      if (end === 'the task is given up') {
        const abort = new AbortController();
        const given = run(task, { folder, by: open(), hooks: { signal: abort.signal } }).catch(
          () => 'given up',
        );
        await expect.poll(parts, { interval: 5 }).not.toEqual([]);
        abort.abort(new Error('given up'));
        expect(await given).toBe('given up');
      } else {
        const parent = starting(
          `processes.run(${JSON.stringify({ task, folder })}, { onImage: () => {} }); console.log('asked');`,
        );
        await expect.poll(parts, { interval: 5 }).not.toEqual([]);
        parent.kill('SIGKILL');
      }
      await expect.poll(parts).toEqual([]);
    },
  );

  it('merge, straighten and encode', async () => {
    const path = fileOf(await solidPng(3, 3, { r: 100, g: 50, b: 25, alpha: 0.5 }));
    const merged = await run({
      kind: 'merge',
      layers: [-1, 2].map((xPx) => ({ path, xPx, yPx: 0, opacity: 1 })),
    });
    expect(
      merged.ok && merged.value.kind === 'image' && [merged.value.xPx, merged.value.image.art.widthPx],
    ).toEqual([-1, 6]);
    expect((await run({ kind: 'straighten', path })).ok).toBe(true);
    const short = { kind: 'encode' as const, path: fileOf(new Uint8Array(10)), widthPx: 2, heightPx: 2 };
    expect(await run(short)).toMatchObject({ ok: false, error: { code: 'damaged' } });
  });

  it('reject what is under way or waits when they are closed', async () => {
    const own = open();
    const work = [1, 2, 3].map(() =>
      run(read('slow.svg', SLOW_SVG), { by: own }).then(
        (result) => result.ok,
        () => 'rejected',
      ),
    );
    await new Promise((resolve) => setTimeout(resolve, 300));
    own.close();
    expect(await Promise.all(work)).toEqual([false, false, 'rejected']);
  });
});
