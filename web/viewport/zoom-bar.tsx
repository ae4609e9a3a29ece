import { memo } from 'react';
import { Button } from '../ui/button.tsx';
import { formatNumber } from '../ui/format.ts';
import { viewportWords as say } from '../words/ui.ts';
import type { Viewport } from './use-viewport.ts';

/** How large something is shown, and the ways back: px for px, or all of it. */
export const ZoomBar = memo(function ZoomBar({
  scale,
  fitted,
  toFit,
  zoomTo,
}: { scale: number } & Pick<Viewport, 'fitted' | 'toFit' | 'zoomTo'>) {
  const pixels = 1 / window.devicePixelRatio;
  return (
    <div
      className="absolute right-2 bottom-2 flex items-center gap-1 opacity-80 hover:opacity-100"
      onPointerDown={(event) => event.stopPropagation()}
    >
      <span className="num bg-raised px-1.5 py-1" data-testid="zoom">
        {formatNumber((scale / pixels) * 100)} %
      </span>
      <Button on={!fitted && Math.abs(scale - pixels) < 1e-9} onClick={() => zoomTo(pixels)}>
        100 %
      </Button>
      <Button on={fitted} onClick={toFit}>
        {say.fit}
      </Button>
    </div>
  );
});
