import { describe, expect, it } from 'vitest';
import { easeSelected, setChannelValue } from '../../edits/keys/index.ts';
import { setMarker } from '../../edits/shot/index.ts';
import type { Scene } from '../../scene/index.ts';
import { channelId } from '../../staging/index.ts';
import { testArt, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { fieldAt, fieldFrames } from './chart.ts';
import { type Mark, PAPERS, type Page, type Paper, sheetPages, sheetSvg } from './index.ts';
import { moveRows } from './moves.ts';

function shot(): Scene {
  const walk = testPlane({
    id: testPlaneId('walk'),
    name: 'Walk',
    content: {
      kind: 'moving',
      exposures: [1, 2, 3].map((n) => ({ art: testArt(n), hold: 2 })),
      cycle: 'loop',
      startFrame: 1,
      rate: null,
    },
  });
  const still = testScene([walk, testPlane({ id: testPlaneId('hill'), name: 'Hill', depthSpx: 1920 })], {
    lengthFrames: 48,
  });
  const key = (scene: Scene, name: 'panX' | 'zoom' | 'roll', frame: number, value: number) =>
    setChannelValue(scene, { on: 'camera', name }, value, { frame, keying: true });
  let moving = key(key(key(still, 'panX', 1, 0), 'panX', 24, 320), 'panX', 48, 320);
  moving = key(key(moving, 'zoom', 1, 1), 'zoom', 48, 2);
  return setMarker(moving, 30, 'the bell rings');
}

const asked = (paper: Paper = 'A4') => ({ shotName: '010 Quay', paper, leftSo: ['Posts cross too fast'] });
const said = (pages: readonly Page[]) =>
  pages.flatMap(({ marks }) => marks.flatMap((mark) => (mark.kind === 'words' ? [mark.words] : [])));

describe('the camera sheet', () => {
  it('tells each move in px, in fields of a twelfth of the frame, and as a ratio', () => {
    // 320 px of 1920 are two of twelve fields, by hand; the second span of the pan changes nothing.
    expect(moveRows(shot())).toMatchObject([
      {
        name: 'pan E–W',
        frames: '1–24',
        from: '0.0 px',
        to: '320.0 px',
        change: '320.0 px',
        fields: '2.00 f',
      },
      { name: 'zoom', frames: '1–48', from: '1.000 ×', to: '2.000 ×', change: '× 2.000', fields: '' },
    ]);
    const thirds = { kind: 'bezier', x1: 1 / 3, y1: 0, x2: 2 / 3, y2: 2 / 3 } as const;
    const pan = channelId({ on: 'camera', name: 'panX' });
    const shaped = easeSelected(shot(), new Map([[pan, new Set([1])]]), thirds);
    expect(moveRows(shaped)[0]?.ease).toBe('0.33, 0.00, 0.67, 0.67');
    expect(moveRows(shot())[0]?.ease).toBe('ease in and out');
  });

  it('draws what the camera sees on the first, the key and the last frames', () => {
    const scene = shot();
    expect(fieldFrames(scene)).toEqual([1, 24, 48]);
    expect(fieldAt(scene, 1)).toEqual([
      { x: 0, y: 0 },
      { x: 1920, y: 0 },
      { x: 1920, y: 1080 },
      { x: 0, y: 1080 },
    ]);
    // Panned by 320 and zoomed to twice: half as wide, about 960 + 320.
    const last = fieldAt(scene, 48)!;
    expect(last[0]!.x).toBeCloseTo(800, 9);
    expect(last[2]!.x).toBeCloseTo(1760, 9);
    expect(last[2]!.y - last[0]!.y).toBeCloseTo(540, 9);
  });

  it.each(Object.keys(PAPERS) as Paper[])('keeps to %s, margins and all', (paper) => {
    const pages = sheetPages(shot(), asked(paper));
    expect(pages.length).toBeGreaterThanOrEqual(3);
    const pointsOf = (mark: Mark) => {
      if (mark.kind === 'words') return [mark.at];
      if ('points' in mark) return mark.points;
      return [
        { x: mark.box.x0, y: mark.box.y0 },
        { x: mark.box.x1, y: mark.box.y1 },
      ];
    };
    for (const { marks, widthMm, heightMm } of pages)
      for (const { x, y } of marks.flatMap(pointsOf)) {
        expect(Math.min(x, y)).toBeGreaterThanOrEqual(9);
        expect(Math.max(x - widthMm, y - heightMm)).toBeLessThanOrEqual(-9);
      }
  });

  it('has the planes nearest first, the notes, and an exposure a cell where it begins', () => {
    const words = said(sheetPages(shot(), asked()));
    expect(words.indexOf('Walk')).toBeLessThan(words.indexOf('Hill'));
    // A plane twice as far as the datum goes half as fast.
    expect(words).toEqual(
      expect.arrayContaining(['50.0 %', 'Frame 30: the bell rings', 'Left so: Posts cross too fast']),
    );
    const exposures = sheetPages(shot(), asked()).at(-1)!;
    const cells = said([exposures]).filter((text) => ['1', '2', '3'].includes(text));
    // 48 frames on twos: 24 beginnings, beside the numbers of the first three frames.
    expect(cells).toHaveLength(24 + 3);
  });

  it('as SVG is well-formed whatever the shot is called, and holds the painting once', () => {
    const pages = sheetPages(shot(), { ...asked(), shotName: 'A <b> & "c"' });
    const svg = sheetSvg(pages, new Uint8Array([1, 2, 3]), () => 'AQID');
    expect(svg).toContain('A &lt;b&gt; &amp; &quot;c&quot;');
    expect(svg.match(/<image /g)).toHaveLength(1);
    expect(svg.match(/<g /g)).toHaveLength(pages.length);
  });
});
