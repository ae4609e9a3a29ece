import type { Scene } from '@keen-ridge/core/scene';
import {
  alphaMapOf,
  type Finding,
  findingsOf,
  finestAlphaOf,
  openFindings,
  surveyRows,
} from '@keen-ridge/core/survey';
import { demoScene, netLoftScene, paintDemo } from '@keen-ridge/demo';
import { beforeAll, describe, expect, it } from 'vitest';
import { decodeStored } from '../art/decode.ts';
import { demoReader } from '../testing/demo-reader.ts';

let demo: Awaited<ReturnType<typeof demoReader>>;
let layers: Awaited<ReturnType<(typeof demo)['read']>>;
const maps = new Map<string, ReturnType<typeof alphaMapOf>>();

beforeAll(async () => {
  demo = await demoReader();
  layers = await demo.read(await paintDemo());
  for (const [id, { png }] of demo.images) {
    const image = await decodeStored(png);
    if (!image.ok) throw new Error(image.error.detail);
    const { widthPx, heightPx, data } = image.value;
    maps.set(id, alphaMapOf(widthPx, heightPx, finestAlphaOf(data, widthPx, heightPx)));
  }
}, 240_000);

const survey = (scene: Scene): Finding[] => findingsOf(surveyRows(scene, (id) => maps.get(id) ?? null));

describe('the survey of the demo', () => {
  it('has nothing open in 010: what it finds is advice, or left so with a note', () => {
    const scene = demoScene(layers);
    expect(openFindings(survey(scene), scene.survey?.leftSo)).toEqual([]);
  });

  it('finds in 040 an edge, a reveal, a soft figure, a slip and a foreground that is too fast', () => {
    const scene = netLoftScene(layers);
    const open = openFindings(survey(scene), scene.survey?.leftSo);
    const words = open.map((finding) => `${finding.code} ${'planeId' in finding ? finding.planeId : ''}`);
    expect(words).toEqual(
      expect.arrayContaining([
        'edge loft-headland',
        'reveal loft-wall',
        'soft loft-figure',
        'slip loft-figure',
        'pace loft-post',
      ]),
    );
  });
});
