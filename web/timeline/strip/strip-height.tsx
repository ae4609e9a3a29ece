import { setPreferences, usePreferences } from '../../session/choices/preferences.ts';
import { arrowStep, useDrag } from '../../ui/pointer/drag.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import type { RowsOf } from './strip-rows.ts';

const HEIGHTS = { least: 120, most: 620, step: 30 };

/** Under which setting each step remembers its height. */
export const HEIGHT_OF = { move: 'stripHeight', look: 'lookStripHeight' } as const;

/** The upper edge of the strip: dragged, it gives the rows more room or less. */
export function HeightHandle({ of }: { of: RowsOf }) {
  const setting = HEIGHT_OF[of];
  const height = usePreferences((state) => state[setting]);
  const to = (px: number) =>
    setPreferences({ [setting]: Math.min(HEIGHTS.most, Math.max(HEIGHTS.least, Math.round(px))) });
  const drag = useDrag<HTMLDivElement>(
    () => ({ move: ({ dy }) => to(height - dy), drop: () => to(height) }),
    { slackPx: 1 },
  );
  return (
    // biome-ignore lint/a11y/useSemanticElements: a rule cannot be dragged
    <div
      role="separator"
      tabIndex={0}
      aria-label={say.heightOfTheTimingStrip}
      aria-orientation="horizontal"
      aria-valuemin={HEIGHTS.least}
      aria-valuemax={HEIGHTS.most}
      aria-valuenow={height}
      className="absolute inset-x-0 -top-1 z-30 h-2 cursor-ns-resize touch-none hover:bg-rule"
      onKeyDown={(event) => {
        const by = arrowStep(event);
        if (!by?.y) return;
        event.preventDefault();
        to(height - by.y * HEIGHTS.step);
      }}
      {...drag}
    />
  );
}
