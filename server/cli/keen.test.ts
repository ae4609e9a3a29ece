import {
  createWriteStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { easeSelected, setCamera } from '@keen-ridge/core/edits/keys';
import { setPlanesRepeat, setRunSpeed } from '@keen-ridge/core/edits/runs';
import { planesOf } from '@keen-ridge/core/scene/records';
import { channelId } from '@keen-ridge/core/staging';
import { readScene } from '@keen-ridge/core/staging/check';
import { mountedOn } from '@keen-ridge/core/testing';
import { EASE_PRESETS } from '@keen-ridge/core/timing';
import { writePsdUint8Array } from 'ag-psd';
import { unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import ZipStream from 'zip-stream';
import { paintedFiles, solidPng } from '../testing/art.ts';
import { testPsd } from '../testing/paintings.ts';
import { keen, main } from './keen.ts';
import { UsageFault } from './usage-fault.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-cli-'));
const warned: string[] = [];
const run = (...args: string[]) => keen(args, folder, (line) => warned.push(line));

beforeAll(async () => {
  await paintedFiles(folder);
  writeFileSync(join(folder, 'notes.txt'), 'hello');
});

describe('keen', () => {
  it('packs art, plans a frame and renders numbered PNGs', async () => {
    expect(
      await run(
        'pack',
        'top.png',
        'scene.ora',
        '--frame',
        '160x90',
        '--rate',
        '25',
        '--length',
        '6',
        '-o',
        'shot.zip',
      ),
    ).toBe('shot.zip: 3 planes');
    expect(warned).toEqual([
      'scene.ora: “Dot” is blended as luminosity; it will be drawn plainly over what lies behind.',
    ]);
    const plan = JSON.parse(await run('plan', 'shot.zip', '--frame', '2', '--json'));
    expect(plan.planes.map((plane: { name: string }) => plane.name)).toEqual(['Ground', 'Dot', 'top']);
    // The painting fills the frame, so its layers lie where the file had them; a PNG of its own is centred.
    expect(plan.planes[1]).toEqual({
      name: 'Dot',
      affine: [1, 0, 0, 1, 10, 20],
      distanceSpx: 160,
      speed: 1,
      repeat: 'none',
      visible: true,
    });
    expect(plan.planes[2].affine).toEqual([1, 0, 0, 1, 60, 25]);
    await run('render', 'shot.zip', '--frames', '2-4', '--out', 'frames');
    expect(readdirSync(join(folder, 'frames'))).toEqual(['shot_0002.png', 'shot_0003.png', 'shot_0004.png']);
    const { data, info } = await sharp(join(folder, 'frames/shot_0003.png'))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number) => [
      ...data.subarray((y * info.width + x) * 4, (y * info.width + x) * 4 + 4),
    ];
    expect([info.width, info.height]).toEqual([160, 90]);
    expect([at(5, 5), at(10, 20), at(29, 29), at(30, 30), at(80, 45)]).toEqual([
      [200, 0, 0, 255],
      [0, 200, 0, 255],
      [0, 200, 0, 255],
      [200, 0, 0, 255],
      [0, 0, 250, 255],
    ]);
  });

  it('plans and renders mounts, runs and repeats', async () => {
    await run('pack', 'top.png', 'scene.ora', '--frame', '160x90', '--length', '6', '-o', 'run.zip');
    const parts = unzipSync(readFileSync(join(folder, 'run.zip')));
    const name = Object.keys(parts).find((path) => path.endsWith('scene.json'))!;
    const read = readScene(JSON.parse(new TextDecoder().decode(parts[name])));
    if (!read.ok) throw new Error(JSON.stringify(read.error));
    const idOf = (plane: string) => planesOf(read.value).find((p) => p.name === plane)!.id;
    // The dot repeats and runs 5 px a frame to the east; the blue square rides on it.
    const riding = mountedOn(read.value, idOf('top'), { on: 'plane', plane: idOf('Dot') });
    const tiled = setPlanesRepeat(riding, new Set([idOf('Dot')]), 'across');
    const speed = { x: 5, unit: 'datum' as const };
    const running = setRunSpeed(tiled, new Set([idOf('Dot')]), speed, { frame: 1, keying: false });
    parts[name] = new Uint8Array(new TextEncoder().encode(JSON.stringify(running)));
    writeFileSync(join(folder, 'run.zip'), zipSync(parts));

    const planes = async (frame: string) =>
      Object.fromEntries(
        JSON.parse(await run('plan', 'run.zip', '--frame', frame, '--json')).planes.map(
          (plane: { name: string }) => [plane.name, plane],
        ),
      );
    const [first, fifth] = [await planes('1'), await planes('5')];
    // Four frames on the dot has run 20 px: its own width, so it looks as it did; its rider has gone on.
    expect(first.Dot).toMatchObject({ repeat: 'across', affine: fifth.Dot.affine });
    expect(fifth.top.affine[4] - first.top.affine[4]).toBeCloseTo(20, 9);
    expect(await run('plan', 'run.zip')).toContain('repeats across');
    await run('render', 'run.zip', '--frames', '2', '--out', 'running');
    const { data } = await sharp(join(folder, 'running/run_0002.png'))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const row = Array.from({ length: 160 }, (_, x) => data[(25 * 160 + x) * 4 + 1]);
    // The whole row of the frame is dots now, but where the square covers them.
    expect(row.filter((green) => green === 200)).toHaveLength(120);
  });

  it('samples every channel, place and speed on every frame as CSV', async () => {
    await run('pack', 'top.png', 'scene.ora', '--frame', '160x90', '--length', '6', '-o', 'sampled.zip');
    const parts = unzipSync(readFileSync(join(folder, 'sampled.zip')));
    const name = Object.keys(parts).find((path) => path.endsWith('scene.json'))!;
    const read = readScene(JSON.parse(new TextDecoder().decode(parts[name])));
    if (!read.ok) throw new Error(JSON.stringify(read.error));
    const keyed = [
      [1, 0],
      [6, 50],
    ].reduce(
      (scene, [frame, panX]) => setCamera(scene, { panX: panX! }, { frame: frame!, keying: true }),
      read.value,
    );
    const even = easeSelected(
      keyed,
      new Map([[channelId({ on: 'camera', name: 'panX' }), new Set([1])]]),
      EASE_PRESETS.linear,
    );
    parts[name] = new Uint8Array(new TextEncoder().encode(JSON.stringify(even)));
    writeFileSync(join(folder, 'sampled.zip'), zipSync(parts));
    const [head, ...lines] = (await run('sample', 'sampled.zip', '--csv'))
      .split('\r\n')
      .map((line) => line.split(','));
    expect(lines).toHaveLength(6);
    const column = (title: string) => lines.map((line) => Number(line[head!.indexOf(title)]));
    expect(column('panX')).toEqual([0, 10, 20, 30, 40, 50]);
    // On the datum a pan of 10 px a frame is seen as 10 px a frame; on the last frame there is no next.
    const speeds = lines.map((line) => line[head!.indexOf('top px/frame')]);
    expect(speeds.slice(0, 5).map(Number)).toEqual([10, 10, 10, 10, 10].map((v) => expect.closeTo(v, 9)));
    expect(speeds[5]).toBe('');
    expect(new Set(head).size).toBe(head!.length);
    const plan = JSON.parse(await run('plan', 'sampled.zip', '--frame', '3', '--json'));
    const top = plan.planes.find((plane: { name: string }) => plane.name === 'top');
    expect(column('top e')[2]).toBeCloseTo(top.affine[4], 9);
    expect(await run('sample', 'sampled.zip')).toContain('10.00 px/frame at 1');
  });

  it('renders at a scale', async () => {
    await run('render', 'shot.zip', '--frames', '1', '--out', 'half', '--scale', '0.5');
    expect(await sharp(join(folder, 'half/shot_0001.png')).metadata()).toMatchObject({
      width: 80,
      height: 45,
    });
  });

  it('fills the empty stage with a colour', async () => {
    await run('pack', 'top.png', '--frame', '160x90', '--length', '2', '-o', 'small.zip');
    await run('render', 'small.zip', '--frames', '1', '--out', 'blue', '--ground', '#204060');
    const { data } = await sharp(join(folder, 'blue/small_0001.png'))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([...data.subarray(0, 3)]).toEqual([0x20, 0x40, 0x60]);
  });

  it('packs the same bytes each time', async () => {
    await run('pack', 'top.png', '-o', 'one.zip');
    await run('pack', 'top.png', '-o', 'two.zip');
    expect(readFileSync(join(folder, 'one.zip'))).toEqual(readFileSync(join(folder, 'two.zip')));
  });

  it('packs every format, folders and numbered pictures too, and renders what came', async () => {
    const image = sharp(await solidPng(30, 20, { r: 90, g: 140, b: 40 }));
    const write = (name: string, bytes: Uint8Array | string) => writeFileSync(join(folder, name), bytes);
    write('a.jpg', await image.clone().jpeg().toBuffer());
    write('b.webp', await image.clone().webp().toBuffer());
    write('c.tif', await image.clone().tiff().toBuffer());
    write(
      'd.svg',
      '<svg xmlns="http://www.w3.org/2000/svg" width="30" height="20"><circle cx="9" cy="9" r="8"/></svg>',
    );
    write('e.psd', testPsd());
    write('f.psb', testPsd({}, { psb: true }));
    const frames = Buffer.concat([0, 120, 240].map((v) => Buffer.alloc(8 * 8 * 4, v || 255)));
    const raw = { width: 8, height: 24, channels: 4 as const, pageHeight: 8 };
    write(
      'g.gif',
      await sharp(frames, { raw })
        .gif({ delay: [40, 40, 40] })
        .toBuffer(),
    );
    write('h.zip', zipSync({ 'in zip.png': await solidPng(5, 5, { r: 1, g: 2, b: 3 }) }));
    mkdirSync(join(folder, 'wave'));
    for (const i of [1, 2, 3]) write(`wave/w_0${i}.png`, await solidPng(6, 6, { r: i * 60, g: 0, b: 0 }));
    const files = ['a.jpg', 'b.webp', 'c.tif', 'd.svg', 'e.psd', 'f.psb', 'g.gif', 'h.zip', 'wave'];
    expect(await run('pack', ...files, '--frame', '64x48', '--length', '4', '-o', 'all.zip')).toBe(
      'all.zip: 17 planes',
    );
    const plan = JSON.parse(await run('plan', 'all.zip', '--json'));
    expect(plan.planes.map((plane: { name: string }) => plane.name)).toEqual(
      expect.arrayContaining(['a', 'd', 'Himmel über See', 'g', 'in zip', 'w']),
    );
    expect(await run('render', 'all.zip', '--out', 'all')).toContain('4 frames');
    expect(readdirSync(join(folder, 'all'))).toHaveLength(4);
  });

  it.each([
    [['pack', 'gone.png', '-o', 'x.zip'], /gone\.png: there is no such file/],
    [['pack', 'notes.txt', '-o', 'x.zip'], /“notes\.txt” cannot be read: it is none of the formats/],
    [['pack', 'top.png', '-o', 'x.zip', '--frame', '20'], /--frame 20: expected WIDTHxHEIGHT/],
    [['pack', 'top.png'], /-o FILE is missing/],
    [['plan', 'notes.txt'], /notes\.txt: the archive cannot be unpacked/],
    [['plan', 'shot.zip', '--frame', '7'], /--frame 7: expected a whole number from 1 to 6/],
    [['render', 'shot.zip', '--frames', '4-9', '--out', 'f'], /--frames 4-9: expected FIRST-LAST within 1-6/],
    [['render', 'shot.zip', '--out', 'f', '--scale', '0'], /--scale 0/],
    [['dance'], /dance: no such verb/],
    [['plan', 'shot.zip', '--loud'], /--loud/],
    [
      ['render', 'shot.zip', '--out', 'x', '--ground', 'blue'],
      /--ground blue: expected clear, black or a colour/,
    ],
  ])('refuses %j in one line', async (args, words) => {
    const error = await run(...args).catch((e: unknown) => e);
    expect(error).toBeInstanceOf(UsageFault);
    expect(String(error)).toMatch(words);
  });

  it('surveys a package: 0 where nothing counts, 3 where something is open, 2 for what it does not know', async () => {
    await run('pack', 'top.png', '--frame', '160x90', '--length', '4', '-o', 'bare-stage.zip');
    const said: string[] = [];
    const log = vi.spyOn(console, 'log').mockImplementation((line) => said.push(String(line)));
    const fault = vi.spyOn(console, 'error').mockImplementation((line) => said.push(String(line)));
    try {
      // A square of 40 px in a frame of 160 × 90 leaves 12 800 px empty.
      expect(await main(['survey', 'bare-stage.zip'], folder)).toBe(3);
      expect(said.pop()).toContain('open    Nothing is there (1–4). 12,800 px of the frame are empty');
      expect(await main(['survey', 'bare-stage.zip', '--fail-on', 'edge,slip'], folder)).toBe(0);
      expect(said.pop()).toContain('Nothing is there');
      expect(await main(['survey', 'bare-stage.zip', '--json'], folder)).toBe(3);
      expect(JSON.parse(said.pop()!)).toMatchObject([{ code: 'hole', state: 'open', measured: 12_800 }]);
      await main(['survey', 'bare-stage.zip', '--paint-list', 'paint.csv'], folder);
      expect(readFileSync(join(folder, 'paint.csv'), 'utf8').split('\r\n')[1]).toMatch(/^top,40,40,100,/);
      expect(
        await main(['survey', 'bare-stage.zip', '--guides', 'guides', '--guides-as', 'png'], folder),
      ).toBe(3);
      const [guide, ...others] = readdirSync(join(folder, 'guides'));
      expect([guide, others]).toEqual([
        expect.stringMatching(/^top_guide_40x40\+0\+0_[0-9a-f]{6}\.png$/),
        [],
      ]);
      said.length = 0;
      expect(await main(['survey', 'bare-stage.zip', '--limits', 'gap=wide'], folder)).toBe(2);
      expect(said.pop()).toMatch(/--limits gap=wide: /);
      expect(await main(['survey', 'bare-stage.zip', '--limits', 'dust=1'], folder)).toBe(2);
      expect(said.pop()).toMatch(/expected gap=N,soft=N,cross=N,slip=N/);
      expect(await main(['survey', 'bare-stage.zip', '--fail-on', 'dust'], folder)).toBe(2);
      expect(said.pop()).toMatch(/--fail-on dust: expected some of hole,edge/);
      await run('pack', 'scene.ora', '--frame', '160x90', '--length', '4', '-o', 'whole.zip');
      expect(await main(['survey', 'whole.zip'], folder)).toBe(0);
    } finally {
      log.mockRestore();
      fault.mockRestore();
    }
  });

  it.each([
    ['pack', ['top.png', '-o', 'nowhere/x.zip'], /nowhere\/x\.zip: there is no such file or folder/],
    ['pack', ['top.png', '-o', 'bare'], /bare: it is a folder/],
    ['pack', ['bare', '-o', 'x.zip'], /there is no art in bare/],
    ['render', ['one.zip', '--out', 'notes.txt'], /notes\.txt: there is something of that name already/],
    ['render', ['one.zip', '--out', 'notes.txt/f'], /a part of the path is a file/],
    ['render', ['one.zip', '--out', 'bare', '--as', 'mp4'], /bare: it is a folder; name the file/],
    ['render', ['wide.zip', '--out', 'w', '--scale', '4'], /holds 16384 px to a side/],
    ['plan', ['bomb.zip'], /bomb\.zip: it unpacks to over 256 MiB/],
    ['plan', ['deep.zip'], /deep\.zip/],
    ['plan', ['bare'], /bare: it is a folder/],
  ] as const)('%s %j: one line, nothing left behind', async (verb, args, words) => {
    mkdirSync(join(folder, 'bare'), { recursive: true });
    if (!existsSync(join(folder, 'bomb.zip'))) {
      // 300 MB of blanks in front of a scene, in some 300 kB.
      const scene = Buffer.concat([Buffer.alloc(300 * 2 ** 20, 32), Buffer.from('{}')]);
      const bomb = new ZipStream();
      bomb.entry(scene, { name: 'scene.json' }, () => bomb.finalize());
      await pipeline(bomb, createWriteStream(join(folder, 'bomb.zip')));
      writeFileSync(join(folder, 'deep.zip'), zipSync({ 'scene.json': Buffer.from('['.repeat(2e6)) }));
      await run('pack', 'top.png', '--frame', '16000x90', '-o', 'wide.zip');
    }
    const before = readdirSync(folder).sort();
    const error = await run(verb, ...args).catch((e: unknown) => e);
    expect(error).toBeInstanceOf(UsageFault);
    expect(String(error)).toMatch(words);
    expect(readdirSync(folder).sort()).toEqual(before);
    expect(readdirSync(join(folder, 'bare'))).toEqual([]);
  });

  it('packs nothing that it would not open again: long names, deep groups', async () => {
    const png = await solidPng(4, 4, { r: 1, g: 2, b: 3 });
    const long = `${'n'.repeat(240)}.png`;
    writeFileSync(join(folder, long), png);
    const layers = {
      name: `${'L'.repeat(300)}🏮`,
      left: 0,
      top: 0,
      imageData: { width: 4, height: 4, data: new Uint8ClampedArray(64).fill(200) },
    };
    writeFileSync(
      join(folder, 'long.psd'),
      writePsdUint8Array({ width: 4, height: 4, children: [layers, layers] }),
    );
    await run('pack', long, 'long.psd', '-o', 'long.zip');
    const plan = JSON.parse(await run('plan', 'long.zip', '--json'));
    expect(plan.planes.map(({ name }: { name: string }) => name.length).sort()).toEqual([200, 200, 200]);
    let group: object = { name: 'inner', opened: true, children: [layers] };
    for (let i = 0; i < 150; i++) group = { name: `g${i}`, opened: true, children: [group] };
    writeFileSync(join(folder, 'deep.psd'), writePsdUint8Array({ width: 4, height: 4, children: [group] }));
    await expect(run('pack', 'deep.psd', '-o', 'x.zip')).rejects.toThrow(/groups lie more than 100 deep/);
  });

  it('says that the disk is full, and leaves a device what it is', async () => {
    await expect(run('pack', 'top.png', '-o', '/dev/full')).rejects.toThrow('/dev/full: the disk is full');
    expect(statSync('/dev/full').isCharacterDevice()).toBe(true);
    expect(existsSync('/dev/full.part')).toBe(false);
  });

  it('notices art that was changed inside a package', async () => {
    const bytes = readFileSync(join(folder, 'one.zip'));
    const at = bytes.indexOf(Buffer.from('IDAT'));
    bytes[at + 10] = (bytes[at + 10] ?? 0) ^ 1;
    writeFileSync(join(folder, 'bent.zip'), bytes);
    await expect(run('plan', 'bent.zip')).rejects.toThrow(/bent\.zip/);
  });
});
