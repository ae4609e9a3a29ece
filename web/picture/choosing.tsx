import type { Box, Point } from '@keen-ridge/core/geometry';
import { useMemo } from 'react';
import { create, type StoreApi, type UseBoundStore } from 'zustand';
import { chooseClicked, clickKeys } from '../session/choices/selection.ts';
import { useSession } from '../session/use-session.ts';
import type { PictureDrag, PicturePress, PictureRoom } from './picture.tsx';

const boxOf = (p: Point, q: Point): Box => ({
  x0: Math.min(p.x, q.x),
  y0: Math.min(p.y, q.y),
  x1: Math.max(p.x, q.x),
  y1: Math.max(p.y, q.y),
});

/**
 * Choosing in a picture: a click takes the plane under it, a drag all planes that lie in the box that it draws. With
 * Ctrl or Shift they come to those that are chosen. `press` is what a press grasps, `draw` the box over the picture.
 */
export function useChoosing() {
  const session = useSession();
  return useMemo(() => {
    const useBox = create<{ readonly box: Box | null }>(() => ({ box: null }));
    const press = (
      { at, event, planesUnder, planesWithin }: PicturePress,
      click?: PictureDrag['click'],
    ): PictureDrag => {
      const keys = clickKeys(event);
      const more = keys.add || keys.shift;
      const end = () => useBox.setState({ box: null });
      return {
        move: (to) => useBox.setState({ box: boxOf(at, to.at) }),
        keep: () => {
          const { box } = useBox.getState();
          end();
          if (!box) return;
          const found = planesWithin(box).map(({ id }) => id);
          session.select([...new Set([...(more ? session.state.selection : []), ...found])]);
        },
        drop: end,
        click:
          click ??
          (() => {
            const [plane] = planesUnder();
            if (plane) chooseClicked(session, plane.id, keys);
            else if (!more) session.select([]);
          }),
      };
    };
    return { press, draw: ({ fit }: PictureRoom) => <ChoosingBox fit={fit} useBox={useBox} /> };
  }, [session]);
}

interface ChoosingBoxProps extends Pick<PictureRoom, 'fit'> {
  useBox: UseBoundStore<StoreApi<{ readonly box: Box | null }>>;
}

function ChoosingBox({ fit, useBox }: ChoosingBoxProps) {
  const box = useBox((state) => state.box);
  if (!box) return null;
  return (
    <div
      data-testid="choosing-box"
      className="pointer-events-none absolute border border-white outline outline-1 outline-select"
      style={{
        left: fit.left + box.x0 * fit.scale,
        top: fit.top + box.y0 * fit.scale,
        width: (box.x1 - box.x0) * fit.scale,
        height: (box.y1 - box.y0) * fit.scale,
      }}
    />
  );
}
