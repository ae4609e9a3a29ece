import { useChooseArt } from '../art/art-drop.tsx';
import { Picture } from '../picture/picture.tsx';
import { PictureSettings } from '../picture/picture-settings.tsx';
import { setPreferences, usePreferences } from '../state/preferences.ts';
import { useSession } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { PlanePanel } from './plane-panel.tsx';
import { STAND_WIDTH, Stand } from './stand.tsx';
import { Transport } from './transport.tsx';

/** Where the artist decides how far everything is: the Stand beside the picture. */
export function StagePage() {
  const session = useSession();
  const holdPicture = usePreferences((state) => state.holdPicture);
  const choose = useChooseArt();
  return (
    <main className="flex min-h-0 flex-1">
      <section
        aria-label="Stand"
        className="flex min-h-0 shrink-0 flex-col border-r border-rule"
        style={{ width: STAND_WIDTH }}
      >
        <div className="flex h-[38px] shrink-0 items-center gap-2 border-b border-rule bg-bar px-3">
          <h1 className="font-semibold">Stand</h1>
          <span className="flex-1" />
          <Button
            on={holdPicture}
            title={
              holdPicture
                ? 'On: a plane that changes depth is re-scaled so that the picture stays'
                : 'Off: a plane truly shrinks and grows with its depth'
            }
            onClick={() => setPreferences({ holdPicture: !holdPicture })}
          >
            Hold picture
          </Button>
          <Button onClick={choose}>Add planes …</Button>
        </div>
        <Stand />
      </section>
      <section aria-label="Picture" className="flex min-h-0 min-w-0 flex-1 flex-col">
        <div className="flex h-[38px] shrink-0 items-center gap-2 border-b border-rule bg-bar px-3">
          <h2 className="font-semibold">Through the camera</h2>
          <span className="flex-1" />
          <PictureSettings />
        </div>
        <Picture
          margin={0.11}
          label="Picture through the camera. Click a plane to choose it."
          cursor="default"
          onDown={({ event, planeUnder }) => {
            const plane = planeUnder();
            const add = event.shiftKey || event.ctrlKey || event.metaKey;
            if (!plane) session.select([]);
            else
              session.select(
                add ? [...session.state.selection.filter((id) => id !== plane.id), plane.id] : [plane.id],
              );
          }}
        />
        <Transport />
        <PlanePanel />
      </section>
    </main>
  );
}
