import { stageCsv } from '@keen-ridge/core/export/stage-data';
import type { Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { sampleShot, speedsOf } from '@keen-ridge/core/staging/sample';

/** Every channel, every plane's affine and speed on screen, on every frame: CSV as RFC 4180 has it. */
export const sampledCsv = (scene: Scene): string => [...stageCsv(scene)].join('').trimEnd();

/** For people: how fast each plane goes at its fastest, and where. */
export function sampledLines(scene: Scene): string {
  const sample = sampleShot(scene);
  if (!sample) return '';
  const lines = planesOf(scene).map(({ name }, i) => {
    const speeds = speedsOf(sample, i).map((speed) => (Number.isFinite(speed) ? speed : 0));
    const fastest = Math.max(...speeds);
    return `  ${name.padEnd(28)} ${fastest.toFixed(2).padStart(9)} px/frame at ${speeds.indexOf(fastest) + 1}`;
  });
  return [`${sample.lengthFrames} frames; the fastest on screen:`, ...lines].join('\n');
}
