import { planesOf } from '@keen-ridge/core/scene/records';
import { channelAt, channelId, PLANE_CHANNELS } from '@keen-ridge/core/staging';
import { CHANNEL_WORDS } from '../../edits/channel-words.ts';
import { toggled, useShotView } from '../../session/choices/shot-view.ts';
import { useSessionState, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Popover } from '../../ui/popover.tsx';
import { timelineWords as say } from '../../words/timeline.ts';

/** Rows for channels of the chosen plane that have no keys yet. */
export function PinPopover() {
  const scene = useShownScene();
  const selection = useSessionState((state) => state.selection);
  const [view, setView] = useShotView();
  const planes = planesOf(scene).filter((plane) => selection.includes(plane.id));
  const [plane] = planes;
  return (
    <Popover label={say.rows}>
      {!plane && <p className="text-ink-2">{say.chooseAPlaneInThe}</p>}
      {plane && (
        <>
          <p className="mb-2 font-semibold">
            {planes.length === 1 ? plane.name : say.lengthPlanes(planes.length)}
          </p>
          <div className="flex flex-wrap gap-1">
            {PLANE_CHANNELS.map((name) => {
              const ids = planes
                .map(({ id }) => ({ on: 'plane', plane: id, name }) as const)
                .filter((ref) => channelAt(scene, ref))
                .map(channelId);
              const on = ids.length > 0 && ids.every((id) => view.pinned.includes(id));
              const flip = () =>
                setView({
                  pinned: ids.reduce<string[]>(
                    (pinned, id) => (pinned.includes(id) === on ? toggled(pinned, id) : pinned),
                    view.pinned,
                  ),
                });
              return (
                <Button
                  key={name}
                  on={on}
                  disabled={ids.length === 0}
                  title={ids.length === 0 ? say.itDoesNotRunSet : undefined}
                  onClick={flip}
                >
                  {CHANNEL_WORDS[name].name}
                </Button>
              );
            })}
          </div>
        </>
      )}
    </Popover>
  );
}
