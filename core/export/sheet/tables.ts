import type { Scene } from '../../scene/index.ts';
import { markersOf, planesOf } from '../../scene/records/index.ts';
import { speedAtDepth } from '../../stage/index.ts';
import { exposureIndexAt } from '../../staging/content/index.ts';
import { isMoving, standingsAt } from '../../staging/index.ts';
import { signed } from './signed.ts';

/** A plane as the camera stand has it, nearest first. */
export interface PlaneRow {
  readonly name: string;
  readonly depth: string;
  readonly speed: string;
  readonly mount: string;
  readonly what: string;
}

export function planeRows(scene: Scene): PlaneRow[] {
  const standings = standingsAt(scene, 1);
  const names = new Map(planesOf(scene).map(({ id, name }) => [id, name]));
  return planesOf(scene)
    .filter(({ hidden }) => !hidden)
    .map((plane) => ({ plane, standing: standings.get(plane.id)! }))
    .sort((p, q) => p.standing.depthSpx - q.standing.depthSpx)
    .map(({ plane, standing: { depthSpx, root } }): PlaneRow => {
      const { mount, content, repeat } = plane;
      const speed = speedAtDepth(depthSpx, scene.homeDistanceSpx);
      const what = [
        content.kind === 'moving' && `${content.exposures.length} exposures`,
        repeat !== 'none' && `repeats ${repeat}`,
        plane.run && 'runs',
        isMoving(plane) && 'moves',
      ];
      return {
        name: plane.name,
        depth: root === 'camera' ? '' : `${signed(depthSpx, 0)} px`,
        speed: root === 'camera' ? 'none' : `${(speed * 100).toFixed(1)} %`,
        mount: mount.on === 'plane' ? (names.get(mount.plane) ?? '') : mount.on,
        what: what.filter((part) => part !== false && part !== null).join(', '),
      };
    });
}

/** Which exposure of a moving plane is on its frames: its number where it begins, nothing where it stays. */
export interface ExposureColumn {
  readonly name: string;
  readonly at: readonly string[];
}

export function exposureColumns(scene: Scene): ExposureColumn[] {
  return planesOf(scene).flatMap(({ name, content, hidden }): ExposureColumn[] => {
    if (content.kind !== 'moving' || hidden) return [];
    let before = -1;
    const at = Array.from({ length: scene.lengthFrames }, (_, i) => {
      const index = exposureIndexAt(content, i + 1, scene.rate);
      const begins = index !== before;
      before = index;
      return begins ? String(index + 1) : '';
    });
    return [{ name, at }];
  });
}

/** What stands at frames, and what is left so of what the survey found. */
export function noteLines(scene: Scene, leftSo: readonly string[]): string[] {
  return [
    ...markersOf(scene).map(({ frame, note }) => `Frame ${frame}${note ? `: ${note}` : ' is marked'}`),
    ...leftSo.map((line) => `Left so: ${line}`),
  ];
}
