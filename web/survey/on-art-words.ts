import { SIDES } from '@keen-ridge/core/image';
import type { Plane } from '@keen-ridge/core/scene';
import type { ArtSight, PaintNeed } from '@keen-ridge/core/survey';
import { formatNumber } from '../ui/format.ts';
import { surveyWords as say } from '../words/survey.ts';

/** What the view of a plane's own art says. */
export function onArtWords(plane: Plane | undefined, sight: ArtSight | null | undefined) {
  const empty = !plane
    ? say.chooseAPlaneForItsArt
    : sight === null
      ? say.noFrameShows(plane.name)
      : say.lookingAtTheArt;
  const says = (needs: readonly PaintNeed[]): string => {
    const need = needs.find(({ planeId }) => planeId === plane?.id);
    if (!need || !sight) return '';
    const adds = SIDES.filter((side) => need.extendPx[side] > 0).map((side) =>
      say.pxAtASide(formatNumber(need.extendPx[side]), side),
    );
    const { fileWidthPx, fileHeightPx } = sight.canvas;
    const size = say.sizeInPx(formatNumber(fileWidthPx), formatNumber(fileHeightPx));
    if (need.standsIn) return say.standsInForPaint(size);
    if (adds.length > 0) return say.needsACanvas(adds, size);
    return sight.canvas.scale > 1 ? say.isToBePaintedAt(size) : say.isLargeEnough;
  };
  return { empty, says };
}
