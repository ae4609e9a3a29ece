import { describe, expect, it } from 'vitest';
import { setCamera } from '../edits/keys/index.ts';
import type { Content, Scene } from '../scene/index.ts';
import { testPlane, testPlaneId } from '../testing/index.ts';
import { alphaOf, painted, panned, shot, sky, whole } from '../testing/painted-planes.ts';
import { findingsOf } from './findings.ts';
import { paintList, paintListCsv } from './paint-list.ts';
import { surveyRows } from './survey-run.ts';

const listOf = (scene: Scene) => {
  const rows = surveyRows(scene, alphaOf);
  return paintList(rows, findingsOf(rows));
};

describe('the paint list', () => {
  it('says how large each plane is to be painted, what to paint on, and what is spare', () => {
    const hill = painted('hill', [360, 200], whole);
    const unseen = painted('unseen', [40, 40], whole, { depthSpx: 4000 });
    const zoomed = setCamera(
      panned(shot([hill, unseen, sky()]), 40),
      { zoom: 1.25 },
      { frame: 1, keying: false },
    );
    const needs = listOf(zoomed);
    expect(needs.map(({ planeId }) => planeId)).toEqual(['hill']);
    // The hill hides the sky. 256 px of it are in the frame, up to 40 + 128 east of its middle: 12 spare there, 52 in the west.
    expect(needs[0]).toMatchObject({
      paintPercent: 125,
      extendPx: { left: 0, right: 0, top: 0, bottom: 0 },
      sparePx: { left: 52, right: 12, top: 28, bottom: 28 },
    });
    const [short] = listOf(panned(shot([hill, sky()]), 40));
    expect(short).toMatchObject({
      paintPercent: 100,
      extendPx: { right: 20 },
      sparePx: { left: 20, right: 0 },
    });
    const csv = paintListCsv([short!], () => 'Hill, near').split('\r\n');
    expect(csv[0]).toBe(
      'plane,width px,height px,paint at %,paint on left px,spare left px,paint on right px,spare right px,paint on top px,spare top px,paint on bottom px,spare bottom px',
    );
    expect(csv[1]).toBe('"Hill, near",360,200,100,0,20,20,0,0,10,0,10');
  });

  it('asks for what shapes that stand in will need once they are painted to the ends of their canvas', () => {
    // A hill of 340 × 80 px blocked in on 360 × 200, its crest in the frame, its ends 10 px short of the canvas.
    const shapes: Content = {
      kind: 'shapes',
      widthPx: 360,
      heightPx: 200,
      shapes: [
        {
          id: 'crest',
          path: 'M10 200 L10 150 L180 120 L350 150 L350 200 Z',
          paint: { kind: 'solid', colour: '#406050', opacity: 1 },
        },
      ],
    };
    const hill = { ...testPlane({ id: testPlaneId('hill') }, 360, 200), content: shapes };
    const [need] = listOf(panned(shot([hill, sky()]), 40));
    // The frame of 320 px reaches to 180 + 160 + 40 = 380 px of the canvas: 20 more in the east; in the west it begins at 20.
    // It sees more than the crest from the start: nothing is asked in the north. In the south it ends at 190 of 200.
    expect(need).toMatchObject({
      standsIn: true,
      extendPx: { left: 0, right: 20, top: 0, bottom: 0 },
      sparePx: { left: 20, right: 0, top: null, bottom: 10 },
    });
    // Behind a post on the camera that hides the east end all along, nothing more is to be painted.
    const post = painted('post', [80, 200], whole, { mount: { on: 'camera' } });
    const east = { ...post, transform: { ...post.transform, xSpx: 140 } };
    const behind = listOf(panned(shot([east, hill, sky()]), 40)).find(({ planeId }) => planeId === 'hill');
    expect(behind?.extendPx.right).toBe(0);
  });
});
