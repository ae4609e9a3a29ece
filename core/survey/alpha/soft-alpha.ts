import { DISTANCE_RANGES, edgeDistances, raster, softEdgeAt } from '../../image/index.ts';
import type { Repeat } from '../../scene/index.ts';
import { repeatsAcross, repeatsDown } from '../../staging/index.ts';
import { memoLast } from '../../units/index.ts';
import { type AlphaMap, alphaMapOf } from './alpha-map.ts';

/** Art px to the edge of the paint, by the texels of a map's finest level, which are the same both ways but for rounding. */
const distancesIn = memoLast((map: AlphaMap, repeat: Repeat): Float32Array => {
  const { columns, rows, data } = map.levels[0]!;
  const image = raster(columns, rows, 'straight');
  for (let i = 0; i < data.length; i++) image.data[i * 4 + 3] = data[i]!;
  const endless = { across: repeatsAcross(repeat), down: repeatsDown(repeat) };
  const { data: told } = edgeDistances(image, endless);
  const texelPx = map.widthPx / columns;
  const [near, , farthest] = DISTANCE_RANGES;
  return Float32Array.from({ length: data.length }, (_, i) => {
    const alpha = told[i * 4 + near.channel]! / 65_535;
    const share = (told[i * 4 + farthest.channel]! / 65_535) * alpha;
    return (alpha < 1 ? alpha * near.px : share * farthest.px) * texelPx;
  });
});

/** How much paint is left of an art whose edge is soft, to a texel of the map. */
export const softened = memoLast((map: AlphaMap, softEdgePx: number, repeat: Repeat): AlphaMap => {
  const { columns, rows, data } = map.levels[0]!;
  const distances = distancesIn(map, repeat);
  const soft = Uint8Array.from(data, (alpha, i) => Math.round(alpha * softEdgeAt(distances[i]!, softEdgePx)));
  return alphaMapOf(map.widthPx, map.heightPx, { columns, rows, data: soft });
});
