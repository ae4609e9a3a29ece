import { describe, expect, it } from 'vitest';
import { setRunSpeed } from '../edits/runs/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { testArt, testPlane, testPlaneId, testScene } from '../testing/index.ts';
import {
  countFault,
  listWords,
  namesFault,
  rateWords,
  samplesFault,
  sizeFault,
  sizeWords,
} from './bounds.ts';
import { frameContent, type Picture } from './frame-content.ts';
import { framesWanted, handoffItems, type Wanted } from './items.ts';
import { checkPattern, FRAMES_PATTERN, fileStem, outputName, PLANES_PATTERN, patternName } from './names.ts';
import { passOf } from './passes.ts';
import { type ChosenPlanes, planAsked, planOfPlane } from './plan-asked.ts';
import { toI420 } from './yuv.ts';

const wanted = (part: Partial<Wanted> = {}): Wanted => ({
  kind: 'png',
  firstFrame: 5,
  lastFrame: 8,
  handles: 0,
  planes: 'together',
  names: { pattern: FRAMES_PATTERN, startAt: null },
  take: '',
  chosen: null,
  ...part,
});
const A = testPlane({ id: testPlaneId('a'), name: 'Sky' });
const B = testPlane({
  id: testPlaneId('b'),
  name: 'sky',
  content: { kind: 'still', art: testArt(2), made: null },
});
const C = testPlane({ id: testPlaneId('c'), name: 'Hill / far', hidden: true });

describe('names of files', () => {
  it('pad frames, keep other digits, and take a minus before the first frame', () => {
    const name = (pattern: string, frame: number) =>
      patternName(pattern, { shot: 'Quay 010', take: 'B', plane: 'Sky', frame });
    expect(name(FRAMES_PATTERN, 7)).toBe('Quay_010_0007');
    expect(name('{frame:2}', 123)).toBe('123');
    expect(name('{frame}', 7)).toBe('7');
    expect(name('v2/{take}.{frame:3}', -4)).toBe('v2/B.-004');
  });

  it.each([
    [FRAMES_PATTERN, false, null],
    [PLANES_PATTERN, true, null],
    ['{shot}', false, 'no-frame'],
    [FRAMES_PATTERN, true, 'no-plane'],
    ['{lens}_{frame}', false, 'unknown-part'],
    ['a:b_{frame}', false, 'bad-character'],
    ['../{frame}', false, 'bad-character'],
    ['/tmp/{frame}', false, 'bad-character'],
    ['<{frame}>', false, 'bad-character'],
  ] as const)('%s (each plane: %s) is checked: %s', (pattern, eachPlane, code) => {
    const checked = checkPattern(pattern, eachPlane);
    expect(checked.ok ? null : checked.error.code).toBe(code);
  });

  it('ask for no more digits than a number can have', () => {
    const checked = checkPattern('{shot}_{frame:99}', false);
    expect(checked).toMatchObject({ ok: false, error: { code: 'many-digits', digits: 99 } });
    expect(checkPattern('{frame:12}', false).ok).toBe(true);
  });

  it('are whole on any system', () => {
    expect(fileStem('Kai / Abend: “1”')).toBe('Kai_Abend_1');
    expect(fileStem('...')).toBe('shot');
    expect(fileStem('x'.repeat(300))).toHaveLength(80);
  });
});

describe('the pictures of a hand-off', () => {
  it('are its frames with their handles, numbered by themselves or from a number', () => {
    expect(framesWanted(wanted({ handles: 2 }))).toEqual([3, 4, 5, 6, 7, 8, 9, 10]);
    const items = handoffItems(
      testScene([A]),
      'S',
      wanted({ handles: 2, names: { pattern: FRAMES_PATTERN, startAt: 100 } }),
    );
    expect(items.map(({ frame, number }) => [frame, number])).toEqual(
      [3, 4, 5, 6, 7, 8, 9, 10].map((frame, i) => [frame, 100 + i]),
    );
    expect(handoffItems(testScene([A]), 'S', wanted()).map(({ name }) => name)).toEqual([
      'S_0005',
      'S_0006',
      'S_0007',
      'S_0008',
    ]);
  });

  it('of a sheet lie evenly over the shot, both ends on it', () => {
    expect(framesWanted(wanted({ kind: 'contact-sheet', firstFrame: 1, lastFrame: 3 }))).toEqual([1, 2, 3]);
    const many = framesWanted(wanted({ kind: 'contact-sheet', firstFrame: 1, lastFrame: 240 }));
    expect([many.length, many[0], many.at(-1)]).toEqual([24, 1, 240]);
    const steps = many.slice(1).map((frame, i) => frame - many[i]!);
    expect(Math.max(...steps) - Math.min(...steps)).toBeLessThanOrEqual(1);
    expect(framesWanted(wanted({ kind: 'contact-sheet', lastFrame: 5 }))).toEqual([5]);
  });

  it('plane by plane leave out what is hidden and tell planes of one name apart', () => {
    const pattern = '{plane}_{frame}';
    const items = handoffItems(
      testScene([A, B, C]),
      'S',
      wanted({ planes: 'each', names: { pattern, startAt: null } }),
    );
    expect(items).toHaveLength(8);
    expect([items[0]?.name, items[4]?.name]).toEqual(['Sky-1_5', 'sky-2_5']);
    expect(new Set(items.map(({ name }) => name.toLowerCase())).size).toBe(8);
  });
});

describe('the names of a hand-off', () => {
  const planesCalled = (...names: string[]) =>
    testScene(names.map((name, i) => testPlane({ id: testPlaneId(`p${i}`), name })));
  const each = (pattern: string, lastFrame: number) =>
    wanted({ planes: 'each', firstFrame: 1, lastFrame, names: { pattern, startAt: null } });

  it('are each given once, whatever the planes are called', () => {
    // By hand: two called a stand at 1 and 2; a-2 is taken, so the second becomes a-5 (2 + 3 planes).
    const items = handoffItems(planesCalled('a', 'a', 'a-2'), 'S', each(PLANES_PATTERN, 2));
    expect(items.map(({ name }) => name)).toEqual([
      'a-1/S_a-1_0001',
      'a-1/S_a-1_0002',
      'a-5/S_a-5_0001',
      'a-5/S_a-5_0002',
      'a-2/S_a-2_0001',
      'a-2/S_a-2_0002',
    ]);
    const many = planesCalled('A', 'a', 'a-2', 'A-2', 'a-4', 'x'.repeat(99), 'x'.repeat(98), 'é', 'e\u0301');
    expect(namesFault(handoffItems(many, 'S', each(PLANES_PATTERN, 3)))).toBeNull();
  });

  it('are refused where the pattern lets two run into one', () => {
    const items = handoffItems(planesCalled('a', 'a1'), 'S', each('{plane}{frame}', 12));
    expect(new Set(items.map(({ name }) => name)).size).toBeLessThan(items.length);
    expect(namesFault(items)).toEqual({ code: 'same-name', name: 'a11' });
    expect(listWords({ code: 'same-name', name: 'a11' })).toContain('{plane}');
  });

  it('are refused where a part is longer than files may be called', () => {
    const long = `${'{shot}'.repeat(3)}_{frame}`;
    expect(
      namesFault(
        handoffItems(planesCalled('a'), 'x'.repeat(80), wanted({ names: { pattern: long, startAt: null } })),
      ),
    ).toMatchObject({ code: 'long-name' });
    // 65 letters of three bytes each are 195 bytes, and four more with the ending: 199 of 200.
    expect(namesFault([{ name: 'あ'.repeat(65) }])).toBeNull();
    expect(namesFault([{ name: 'あ'.repeat(66) }])).toMatchObject({ code: 'long-name' });
  });
});

describe('how much leaves at once', () => {
  it('is bounded before it is listed', () => {
    const planes = Array.from({ length: 500 }, (_, i) => testPlane({ id: testPlaneId(`p${i}`) }));
    const all = wanted({ planes: 'each', firstFrame: 1, lastFrame: 100_000 });
    expect(countFault(testScene(planes), all)).toEqual({ code: 'too-many', are: 50_000_000 });
    expect(countFault(testScene(planes), { ...all, lastFrame: 400 })).toBeNull();
    expect(countFault(testScene([C]), all)).toEqual({ code: 'nothing' });
  });

  it.each([
    // H.264 level 6.2 takes 139 264 macroblocks: 8192 × 4352 is 512 × 272 = 139 264 of them.
    ['mp4', 8192, 4352, null],
    ['mp4', 8192, 4353, 'macroblocks'],
    ['mp4', 8192, 8192, 'macroblocks'],
    ['webm', 8192, 8192, null],
    ['png', 16_384, 16_385, 'side'],
    ['webm-av1', 63, 64, 'small'],
    ['webm-av1', 64, 64, null],
    ['ffv1', 2, 90, 'small'],
    ['ffv1', 4, 4, null],
  ] as const)('%s of %i × %i: %s', (kind, widthPx, heightPx, code) => {
    const fault = sizeFault(kind, widthPx, heightPx);
    expect(fault?.code ?? null).toBe(code);
    if (fault) expect(sizeWords(kind, widthPx, heightPx, fault)).toContain(`${widthPx} × ${heightPx}`);
  });
});

describe('rates', () => {
  it('that a format cannot show are told with what it makes of them', () => {
    expect(rateWords('gif', { num: 60, den: 1 })).toContain('50 frames a second at most: some of 60');
    expect(rateWords('gif', { num: 50, den: 1 })).toBeNull();
    expect(rateWords('webm', { num: 120, den: 1 })).toBeNull();
  });
});

describe('what a frame is drawn from', () => {
  const picture: Picture = {
    widthPx: 320,
    heightPx: 180,
    format: 'straight8',
    ground: 'clear',
    words: '',
    program: 'p',
  };
  const content = (scene = testScene([A, C]), frame = 1, of = picture) =>
    frameContent(framePlan(scene, frame), of);

  it('is the same where nothing is drawn otherwise', () => {
    expect(content(testScene([{ ...A, name: 'other', id: testPlaneId('z') }, C]))).toBe(content());
    expect(content(testScene([A]))).toBe(content());
    expect(content(testScene([A, C]), 9)).toBe(content());
    expect(content(testScene([A, { ...B, opacity: 0 }]))).toBe(content());
  });

  it.each([
    ['place', testScene([{ ...A, transform: { ...A.transform, xSpx: 1e-9 } }])],
    ['opacity', testScene([{ ...A, opacity: 0.5 }])],
    ['tiling', testScene([{ ...A, repeat: 'across' as const }])],
    ['air', testScene([{ ...A, depthSpx: 9 }], { air: { colour: '#112233', visibilitySpx: 100 } })],
    [
      'vignette',
      testScene([A], { filter: { brightness: 1, tint: '#ffffff', tintStrength: 0, glow: 0, vignette: 0.1 } }),
    ],
    ['order', testScene([B, A])],
  ] as const)('is another where the %s is', (_what, scene) => {
    expect(content(scene)).not.toBe(content(testScene([A, B])));
    expect(content(scene)).not.toBe(content());
  });

  it('is another for every other picture of it', () => {
    const others: Partial<Picture>[] = [
      { widthPx: 321 },
      { format: 'straight16' },
      { ground: '#000000' },
      { words: 'S · 0001' },
      { program: 'q' },
    ];
    const all = others.map((part) => content(testScene([A, C]), 1, { ...picture, ...part }));
    expect(new Set([content(), ...all]).size).toBe(6);
  });

  it('of one plane is that plane in place', () => {
    const plan = framePlan(testScene([A, B]), 1);
    expect(planOfPlane(plan, A.id).planes.map(({ planeId }) => planeId)).toEqual([A.id]);
    expect(planOfPlane(plan, null)).toBe(plan);
  });
});

describe('what of a frame is drawn', () => {
  const graded = {
    ...A,
    grade: { brightness: 0.5, saturation: 1, tint: '#ff0000', tintStrength: 0.2, blurPx: 4, softEdgePx: 8 },
  };
  const scene = testScene([graded, B]);
  const wishes = (part: { looks?: boolean; pass?: string; chosen?: ChosenPlanes | null }) => ({
    pass: 'picture',
    looks: true,
    chosen: null,
    ...part,
  });
  const planes = (part: Parameters<typeof wishes>[0]) => planAsked(scene, wishes(part), 1, null).planes;

  it('are chosen planes alone, or dimmed to a quarter among the others', () => {
    const chosen = { ids: [A.id] };
    expect(planes({ chosen: { ...chosen, shown: 'alone' } }).map(({ planeId }) => planeId)).toEqual([A.id]);
    const dimmed = planes({ chosen: { ...chosen, shown: 'dimmed' } });
    expect(dimmed.map(({ planeId, opacity }) => [planeId, opacity]).sort()).toEqual(
      [
        [A.id, A.opacity / 4],
        [B.id, B.opacity],
      ].sort(),
    );
  });

  it('is without looks as it was painted, in the same place', () => {
    const of = (looks: boolean) => planes({ looks }).find(({ planeId }) => planeId === A.id)!;
    expect(of(true).look.matrix).not.toBeNull();
    expect(of(false)).toMatchObject({ softEdgePx: 0, look: { matrix: null } });
    expect(of(false).artToFrame).toEqual(of(true).artToFrame);
  });

  it('of a pass is the whole plan, whatever is chosen', () => {
    const pass = planes({ pass: 'matte-seen', looks: false, chosen: { ids: [A.id], shown: 'alone' } });
    expect(pass).toHaveLength(2);
  });
});

describe('I420 by BT.709', () => {
  const filled = (colour: readonly number[], width: number, height: number) =>
    Uint8Array.from({ length: width * height * 4 }, (_, i) => (i % 4 === 3 ? 255 : colour[i % 4]!));

  // 100 % bars in 8-bit BT.709, limited range; the values of the colours from memory.
  it.each([
    ['white', [255, 255, 255], [235, 128, 128]],
    ['black', [0, 0, 0], [16, 128, 128]],
    ['red', [255, 0, 0], [63, 102, 240]],
    ['green', [0, 255, 0], [173, 42, 26]],
    ['blue', [0, 0, 255], [32, 240, 118]],
  ] as const)('%s is where the standard has it', (_name, colour, [y, u, v]) => {
    const { data } = toI420(filled(colour, 4, 2), 4, 2);
    expect([...data]).toEqual([...Array(8).fill(y), u, u, v, v]);
  });

  it('pads odd sizes by their last column and row, and means chroma over four', () => {
    const pixels = Uint8Array.from([255, 0, 0, 255, 0, 0, 255, 255, 255, 255, 255, 255]);
    const planar = toI420(pixels, 3, 1);
    expect([planar.widthPx, planar.heightPx]).toEqual([4, 2]);
    expect([...planar.data.subarray(0, 8)]).toEqual([63, 32, 235, 235, 63, 32, 235, 235]);
    // Half red, half blue: (102 + 240) / 2 and (240 + 118) / 2.
    expect(planar.data[8]).toBe(171);
    expect(planar.data[10]).toBe(179);
    expect([planar.data[9], planar.data[11]]).toEqual([128, 128]);
  });
});

describe('the file of a hand-off', () => {
  const asked = {
    kind: 'png',
    firstFrame: 1,
    lastFrame: 24,
    handles: 0,
    scale: 1,
    depth: 8,
    planes: 'together',
    take: '',
    burnIn: false,
    pins: false,
    sound: false,
    looks: true,
    chosen: null,
    pass: 'picture',
    depthFile: 'png',
    names: { startAt: null },
  } as const;

  it('is called otherwise for whatever looks otherwise', () => {
    const all = [
      asked,
      { ...asked, depth: 16 },
      { ...asked, planes: 'each' },
      { ...asked, take: 'wide' },
      { ...asked, take: 'slow' },
      { ...asked, burnIn: true },
      { ...asked, pins: true },
      { ...asked, looks: false },
      { ...asked, chosen: { ids: [testPlaneId('a')], shown: 'alone' } },
      { ...asked, chosen: { ids: [testPlaneId('b')], shown: 'alone' } },
      { ...asked, chosen: { ids: [testPlaneId('b')], shown: 'dimmed' } },
      { ...asked, pass: 'motion', depth: 16, planes: 'each' },
      { ...asked, scale: 0.5 },
      { ...asked, handles: 4 },
      { ...asked, names: { startAt: 1001 } },
      { ...asked, pass: 'depth', depth: 16 },
      { ...asked, pass: 'depth', depth: 16, depthFile: 'exr-half' },
      { ...asked, pass: 'depth', depth: 16, depthFile: 'exr-float' },
      { ...asked, pass: 'matte', planes: 'each' },
      { ...asked, pass: 'matte-seen', planes: 'each' },
      { ...asked, kind: 'webm' },
      { ...asked, kind: 'webm', sound: true },
      { ...asked, kind: 'webm-av1' },
      { ...asked, kind: 'apng' },
      { ...asked, kind: 'contact-sheet' },
    ] as const;
    const names = all.map((one) => outputName('010 Quay', one));
    expect(new Set(names).size).toBe(names.length);
    expect(names.slice(0, 3)).toEqual([
      '010_Quay_1-24.zip',
      '010_Quay_1-24_16bit.zip',
      '010_Quay_1-24_planes.zip',
    ]);
    expect(names).toEqual(
      expect.arrayContaining(['010_Quay_1-24_vp9.webm', '010_Quay_1-24_av1.webm', '010_Quay_1001-1024.zip']),
    );
  });
});

it('tells when there are too many planes on too many frames to be told at once', () => {
  const scene = testScene([A, B, C], { lengthFrames: 1000 });
  expect(samplesFault(scene, 3000)).toBeNull();
  expect(samplesFault(scene, 2999)).toMatch(/^3 planes on 1000 frames are more than/);
});

describe('a motion pass', () => {
  it('follows what runs through where its copies come round again', () => {
    const id = testPlaneId('strip');
    const strip = testPlane({ id, repeat: 'across' }, 800, 300);
    const still = testScene([strip], { lengthFrames: 140 });
    // 12.3 px a frame come round again after 65.04 frames.
    const running = setRunSpeed(
      still,
      new Set([id]),
      { x: -12.3, unit: 'datum' },
      { frame: 1, keying: false },
    );
    for (let frame = 1; frame <= 140; frame++) {
      const pass = passOf(running, 'motion', { plane: id, frame });
      expect(pass).toMatchObject({ kind: 'motion', toNext: { a: 1, b: 0, c: 0, d: 1, f: 0 } });
      expect(pass?.kind === 'motion' && pass.toNext?.e).toBeCloseTo(-12.3, 6);
    }
  });
});
