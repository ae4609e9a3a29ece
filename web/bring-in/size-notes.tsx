import { paintingNeeds } from '@keen-ridge/core/survey';
import { useMemo } from 'react';
import { useSessionState } from '../session/use-session.ts';
import { formatNumber } from '../ui/format.ts';

/** Whether a painting is large enough for the frame and for the move that is keyed, in numbers. */
export function SizeNotes({
  painting,
  scale,
}: {
  painting: { widthPx: number; heightPx: number };
  scale: number;
}) {
  const scene = useSessionState((state) => state.scene);
  const needs = useMemo(() => paintingNeeds(scene, painting, scale), [scene, painting, scale]);
  const { shortWidthPx, shortHeightPx, enlargedBy, moves } = needs;
  const what = moves ? 'the move' : 'the frame';
  const sides = [
    shortWidthPx > 0 ? `${formatNumber(shortWidthPx)} px wider` : '',
    shortHeightPx > 0 ? `${formatNumber(shortHeightPx)} px higher` : '',
  ].filter(Boolean);
  return (
    <>
      {sides.length > 0 && (
        <p className="text-fault">
          Too small for {what}: on the datum it would have to be {sides.join(' and ')}.
        </p>
      )}
      {enlargedBy > 1.001 && (
        <p className="text-fault">
          Enlarged {formatNumber(enlargedBy, 2)} times, so it will be soft: paint it{' '}
          {formatNumber(painting.widthPx * enlargedBy)} px wide.
        </p>
      )}
      {sides.length === 0 && !moves && (
        <p className="text-ink-2">
          {formatNumber(needs.coversWidthSpx / scene.frame.widthPx, 2)} frames wide,{' '}
          {formatNumber(needs.coversHeightSpx / scene.frame.heightPx, 2)} high; 2 to 3 in the direction of the
          move is usual.
        </p>
      )}
    </>
  );
}
