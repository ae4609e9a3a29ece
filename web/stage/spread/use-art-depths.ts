import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { depthFromArt } from '@keen-ridge/core/survey';
import { useEffect, useState } from 'react';

/** The depths that planes are painted for, by plane; those for which there is none are null. */
export type ArtDepths = ReadonlyMap<PlaneId, number | null>;

/**
 * Finds the depth at which each plane's art just serves the move, one plane a turn, so that the page is never held.
 * Nothing while it is not wanted.
 */
export function useArtDepths(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  sparePx: number,
  wanted: boolean,
): ArtDepths {
  const [depths, setDepths] = useState<ArtDepths>(new Map());
  const names = [...ids].join();
  useEffect(() => {
    setDepths(new Map());
    if (!wanted) return;
    const left = names === '' ? [] : (names.split(',') as PlaneId[]);
    let timer: ReturnType<typeof setTimeout> | undefined;
    const next = () => {
      const id = left.shift();
      if (!id) return;
      const depth = depthFromArt(scene, id, sparePx);
      setDepths((known) => new Map([...known, [id, depth]]));
      timer = setTimeout(next, 0);
    };
    timer = setTimeout(next, 0);
    return () => clearTimeout(timer);
  }, [scene, names, sparePx, wanted]);
  return depths;
}
