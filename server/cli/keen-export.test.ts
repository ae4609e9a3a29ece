import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { stageDataSchema } from '@keen-ridge/core/export/stage-data';
import { gltfReport } from '@keen-ridge/core/testing';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { paintedFiles } from '../testing/art.ts';
import { keen } from './keen.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-export-'));
const warned: string[] = [];
const run = (...args: string[]) => keen(args, folder, (line) => warned.push(line));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('keen export', () => {
  const file = (name: string) => readFileSync(join(folder, name));
  beforeAll(async () => {
    await paintedFiles(folder);
    await run(
      'pack',
      'top.png',
      'scene.ora',
      '--frame',
      '160x90',
      '--rate',
      '25',
      '--length',
      '5',
      '-o',
      'next.zip',
    );
  });

  it('gives stage data as CSV and JSON, of the camera or of planes by name', async () => {
    expect(await run('export', 'next.zip', '--as', 'csv', '--out', 'data/all.csv')).toBe(
      'data/all.csv: csv of 5 frames',
    );
    const lines = file('data/all.csv').toString().trimEnd().split('\r\n');
    expect(lines).toHaveLength(6);
    expect(lines[0]).toContain('Dot distance');
    await run('export', 'next.zip', '--as', 'csv', '--out', 'camera.csv', '--of', 'camera');
    expect(file('camera.csv').toString()).not.toContain('Dot');
    await run('export', 'next.zip', '--as', 'json', '--out', 'dot.json', '--of', 'Dot');
    const data = stageDataSchema.parse(JSON.parse(file('dot.json').toString()));
    expect(data.planes.map(({ name }) => name)).toEqual(['Dot']);
    const e = data.columns.findIndex(({ name }) => name === 'e') + 1;
    expect(data.rows.map((row) => row[e])).toEqual([10, 10, 10, 10, 10]);
  });

  it('gives the stage as glTF with the art of each plane', async () => {
    await run('export', 'next.zip', '--as', 'glb', '--out', 'next.glb', '--art', '32');
    const glb = file('next.glb');
    const { issues } = await gltfReport(new Uint8Array(glb));
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const json = JSON.parse(glb.subarray(20, 20 + glb.readUInt32LE(12)).toString());
    const at = 20 + glb.readUInt32LE(12) + 8;
    const sizes = await Promise.all(
      json.images.map(async ({ bufferView }: { bufferView: number }) => {
        const { byteOffset = 0, byteLength } = json.bufferViews[bufferView];
        const { width, height } = await sharp(
          glb.subarray(at + byteOffset, at + byteOffset + byteLength),
        ).metadata();
        return `${width}x${height}`;
      }),
    );
    // 160 × 90, 20 × 10 and 40 × 40, none longer than 32.
    expect(sizes.sort()).toEqual(['20x10', '32x18', '32x32']);
  });

  it('gives the camera sheet, which poppler reads', async () => {
    await run('export', 'next.zip', '--as', 'sheet', '--out', 'sheet.pdf', '--paper', 'letter');
    const text = spawnSync('pdftotext', ['-layout', join(folder, 'sheet.pdf'), '-'], { encoding: 'utf8' });
    expect(text.stderr).toBe('');
    for (const words of [
      'next',
      '5 frames, 0.20 s at 25',
      'Planes, nearest first',
      'Dot',
      'stands still',
      '100.0 %',
    ])
      expect(text.stdout).toContain(words);
    const info = spawnSync('pdfinfo', [join(folder, 'sheet.pdf')], { encoding: 'utf8' }).stdout;
    // 279.4 mm by 215.9 mm.
    expect(info).toMatch(/Page size:\s+792 x 612 pts/);
    await run('export', 'next.zip', '--as', 'sheet', '--out', 'sheet.svg');
    expect((await sharp(join(folder, 'sheet.svg')).metadata()).format).toBe('svg');
  });

  it('renders depth in 16 bits with what it means beside it, and mattes plane by plane', async () => {
    await run('render', 'next.zip', '--frames', '1-2', '--pass', 'depth', '--out', 'depth');
    expect(readdirSync(join(folder, 'depth'))).toEqual(['depth.json', 'next_0001.png', 'next_0002.png']);
    expect(JSON.parse(file('depth/depth.json').toString())).toMatchObject({ black: 0, white: 160, bits: 16 });
    expect((await sharp(join(folder, 'depth/next_0001.png')).metadata()).depth).toBe('ushort');
    await run(
      'render',
      'next.zip',
      '--frames',
      '2',
      '--pass',
      'depth',
      '--depth-as',
      'exr-half',
      '--out',
      'exr',
    );
    expect(readdirSync(join(folder, 'exr'))).toEqual(['depth.json', 'next_0002.exr']);
    // The magic number of OpenEXR.
    expect(file('exr/next_0002.exr').readUInt32LE(0)).toBe(20_000_630);
    await run('render', 'next.zip', '--frames', '1', '--pass', 'matte-seen', '--out', 'mattes');
    expect(readdirSync(join(folder, 'mattes')).sort()).toEqual(['Dot', 'Ground', 'top']);
    const { data, info } = await sharp(join(folder, 'mattes/Ground/next_Ground_0001.png'))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number) => data[(y * info.width + x) * info.channels];
    // The dot stands from (10, 20), 20 by 10; the blue square in the middle; the ground is all the rest.
    expect([at(2, 2), at(15, 25), at(80, 45), at(150, 80)]).toEqual([255, 0, 0, 255]);
    await expect(run('render', 'next.zip', '--pass', 'fog', '--out', 'x')).rejects.toThrow(
      'there are depth, matte',
    );
  });

  it.each([
    [['--as', 'film', '--out', 'x'], 'there are csv, json, glb, sheet'],
    [['--as', 'constructor', '--out', 'x'], 'there are csv, json, glb, sheet'],
    [['--as', 'csv', '--out', 'x', '--of', 'Nobody'], 'there is no plane called “Nobody”'],
    [['--as', 'glb', '--out', 'x', '--art', '2'], 'expected a whole number from 16 to 8192'],
    [['--as', 'sheet', '--out', 'x', '--paper', 'B5'], 'there are A4, A3, letter'],
    [['--as', 'csv'], '--out FILE is missing'],
  ])('refuses %j', async (args, words) => {
    await expect(run('export', 'next.zip', ...args)).rejects.toThrow(words);
    expect(existsSync(join(folder, 'x'))).toBe(false);
  });

  it('gives depth, mattes, motion, a guide film and the still set by name', async () => {
    await run('export', 'next.zip', '--as', 'motion', '--frames', '1', '--out', 'motion');
    expect(readdirSync(join(folder, 'motion')).sort()).toEqual(['Dot', 'Ground', 'motion.json', 'top']);
    const { data } = await sharp(join(folder, 'motion/Dot/next_Dot_0001.png'))
      .toColourspace('rgb16')
      .raw({ depth: 'ushort' })
      .toBuffer({ resolveWithObject: true });
    const px = new Uint16Array(data.buffer, data.byteOffset, 3 * 160 * 90);
    const at = 3 * (25 * 160 + 15);
    expect([...px.slice(at, at + 3)]).toEqual([32_768, 32_768, 65_535]);
    await run('export', 'next.zip', '--as', 'depth', '--frames', '2', '--out', 'as-depth');
    expect(readdirSync(join(folder, 'as-depth'))).toEqual(['depth.json', 'next_0002.png']);
    await run('export', 'next.zip', '--as', 'mattes', '--frames', '2', '--out', 'as-mattes');
    expect(readdirSync(join(folder, 'as-mattes')).sort()).toEqual(['Dot', 'Ground', 'top']);
    await run('export', 'next.zip', '--as', 'guide', '--out', 'guide.mp4');
    const probed = spawnSync(
      'ffprobe',
      [
        '-v',
        'error',
        '-show_entries',
        'stream=width,height,nb_frames',
        '-of',
        'csv=p=0',
        join(folder, 'guide.mp4'),
      ],
      { encoding: 'utf8' },
    );
    // Half of 160 × 90, made even.
    expect(probed.stdout.trim()).toBe('80,46,5');
    await run('export', 'next.zip', '--as', 'stills', '--of', 'Dot', '--out', 'stills.zip');
    const stills = unzipSync(new Uint8Array(file('stills.zip')));
    expect(Object.keys(stills)).toEqual(['stage.png', 'still-set.json', 'fields.png', 'planes/01_Dot.png']);
    const dot = await sharp(stills['planes/01_Dot.png']!).raw().toBuffer({ resolveWithObject: true });
    expect([dot.info.width, dot.info.height]).toEqual([160, 90]);
    const alphaAt = (x: number, y: number) => dot.data[(y * 160 + x) * 4 + 3];
    expect([alphaAt(15, 25), alphaAt(9, 25), alphaAt(31, 25)]).toEqual([255, 0, 0]);
  });

  it('draws chosen planes alone or dimmed', async () => {
    const pxOf = async (...args: string[]) => {
      await run('render', 'next.zip', '--frames', '1', '--ground', 'black', '--out', 'chosen', ...args);
      const { data, info } = await sharp(join(folder, 'chosen/next_0001.png'))
        .raw()
        .toBuffer({ resolveWithObject: true });
      const at = (25 * info.width + 15) * info.channels;
      return [...data.subarray(at, at + 3)];
    };
    expect(await pxOf('--alone', 'Ground')).toEqual([200, 0, 0]);
    expect(await pxOf('--alone', 'Dot')).toEqual([0, 200, 0]);
    // A quarter of the dot's green over three quarters of the ground's red.
    expect(await pxOf('--dim', 'Dot')).toEqual([150, 50, 0]);
    await expect(pxOf('--dim', 'Dot', '--alone', 'Dot')).rejects.toThrow('do not go together');
  });
});

describe('keen archive', () => {
  it('puts packages into one production, each image once, and gives them back as they were', async () => {
    await run('pack', 'top.png', '-o', 'a.zip');
    await run('pack', 'top.png', 'scene.ora', '-o', 'b.zip');
    expect(await run('archive', 'a.zip', 'b.zip', '-o', 'both.zip', '--name', 'Quay')).toBe(
      'both.zip: 2 shots',
    );
    const parts = Object.keys(unzipSync(new Uint8Array(readFileSync(join(folder, 'both.zip')))));
    expect(parts.filter((part) => part.startsWith('art/'))).toHaveLength(3);
    expect(await run('archive', 'both.zip', '--out', 'back')).toBe('back: 2 shots of “Quay”');
    for (const name of ['a.zip', 'b.zip'])
      expect(readFileSync(join(folder, 'back', name)).equals(readFileSync(join(folder, name)))).toBe(true);
  });

  it.each([
    [['a.zip'], '-o FILE, or --out DIR is missing'],
    [['-o', 'x.zip'], 'name at least one package'],
    [['top.png', '--out', 'x'], 'no production that can be opened'],
    [['a.zip', '--out', 'x'], 'production.json is not in it'],
  ])('refuses %j', async (args, words) => {
    await expect(run('archive', ...args)).rejects.toThrow(words);
    expect(existsSync(join(folder, 'x'))).toBe(false);
    expect(existsSync(join(folder, 'x.zip'))).toBe(false);
  });
});
