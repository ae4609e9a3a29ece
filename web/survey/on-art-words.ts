import { SIDES, type Side } from '@keen-ridge/core/image';
import type { Plane } from '@keen-ridge/core/scene';
import type { ArtSight, PaintNeed } from '@keen-ridge/core/survey';
import { formatNumber } from '../ui/format.ts';

const TOWARDS: Readonly<Record<Side, string>> = {
  left: 'west',
  right: 'east',
  top: 'north',
  bottom: 'south',
};

/** What the view of a plane's own art says. */
export function onArtWords(plane: Plane | undefined, sight: ArtSight | null | undefined) {
  const empty = !plane
    ? 'Choose a plane, or a finding about one, to see its own art.'
    : sight === null
      ? `No frame shows ${plane.name}.`
      : 'Looking at the art through every frame …';
  const says = (needs: readonly PaintNeed[]): string => {
    const need = needs.find(({ planeId }) => planeId === plane?.id);
    if (!need || !sight) return '';
    const adds = SIDES.filter((side) => need.extendPx[side] > 0).map(
      (side) => `${formatNumber(need.extendPx[side])} px at the ${TOWARDS[side]}`,
    );
    const { fileWidthPx, fileHeightPx } = sight.canvas;
    const size = `${formatNumber(fileWidthPx)} × ${formatNumber(fileHeightPx)} px`;
    if (need.standsIn) return `stands in for paint to come: paint it at ${size}.`;
    if (adds.length > 0) return `needs ${adds.join(' and ')}: a canvas of ${size}.`;
    return sight.canvas.scale > 1
      ? `is to be painted at ${size}, so that nothing is soft.`
      : 'is as large as it needs to be.';
  };
  return { empty, says };
}
