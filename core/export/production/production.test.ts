import { expect, it } from 'vitest';
import { otioText, type ShotEntry, shotsCsv } from './index.ts';

const shot = (part: Partial<ShotEntry>): ShotEntry => ({
  name: '010 Quay',
  frame: { widthPx: 1920, heightPx: 1080 },
  rate: { num: 24_000, den: 1001 },
  lengthFrames: 120,
  planes: 11,
  findings: { open: 2, leftSo: 1, advice: 0 },
  film: null,
  ...part,
});

it('lists shots with their lengths and findings, whatever they are called', () => {
  const csv = shotsCsv([shot({}), shot({ name: 'Cliff, "east"', film: { fileName: 'cliff.mp4' } })]);
  const lines = csv.split('\r\n');
  // 120 · 1001/24000 = 5.005 s, by hand.
  expect(lines[1]).toBe('010 Quay,120,5.005,23.976,1920,1080,11,2,1,0,');
  expect(lines[2]!.startsWith('"Cliff, ""east""",')).toBe(true);
  expect(lines[2]!.endsWith(',cliff.mp4')).toBe(true);
});

it('puts shots one after another on a track, each as long as it is, with its film where there is one', () => {
  const timeline = JSON.parse(
    otioText('Salt Lanterns', [shot({}), shot({ lengthFrames: 48, film: { fileName: 'a b.webm' } })]),
  );
  const [track] = timeline.tracks.children;
  expect([timeline.OTIO_SCHEMA, timeline.name, track.kind]).toEqual(['Timeline.1', 'Salt Lanterns', 'Video']);
  expect(
    track.children.map((clip: { source_range: { duration: object } }) => clip.source_range.duration),
  ).toEqual([
    { OTIO_SCHEMA: 'RationalTime.1', rate: 24_000 / 1001, value: 120 },
    { OTIO_SCHEMA: 'RationalTime.1', rate: 24_000 / 1001, value: 48 },
  ]);
  const references = track.children.map(
    (clip: { media_references: Record<string, object>; active_media_reference_key: string }) =>
      clip.media_references[clip.active_media_reference_key],
  );
  expect(references).toMatchObject([
    { OTIO_SCHEMA: 'MissingReference.1' },
    { OTIO_SCHEMA: 'ExternalReference.1', target_url: 'a%20b.webm' },
  ]);
});
