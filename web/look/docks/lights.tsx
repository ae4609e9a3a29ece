import { addCardBeforeCamera, addLamp } from '@keen-ridge/core/edits/look';
import { freeName } from '@keen-ridge/core/edits/planes';
import { planeOf } from '@keen-ridge/core/scene/records';
import { shownValueAt, standingAt } from '@keen-ridge/core/staging';
import { newPlaneId } from '../../edits/art-edits.ts';
import type { Session } from '../../session/session.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { lookWords as say } from '../../words/look.ts';

const WARM = '#ffcf87';
/** Share of the frame's width that a new lamp is wide. */
const LAMP_WIDTH = 0.22;

/** Lights to begin with: a lamp that glows and flickers, and a card before the lens. */
export function Lights() {
  const session = useSession();
  return (
    <section aria-label={say.lights} className="mt-3 border-t border-rule-light pt-3">
      <h3 className="mb-1.5 font-semibold">{say.lights}</h3>
      <div className="flex flex-wrap gap-1">
        <Button title={say.addLampMeans} onClick={() => newLamp(session)}>
          {say.addLamp}
        </Button>
        <Button title={say.cardMeans} onClick={() => newCardBefore(session)}>
          {say.cardBeforeCamera}
        </Button>
      </div>
    </section>
  );
}

/** At the depth of the chosen plane, just in front of it, or at that which is sharp. */
function newLamp(session: Session): void {
  const { scene, frame, selection } = session.state;
  const id = newPlaneId();
  const name = freeName(scene, say.lamp);
  const plane = planeOf(scene, selection[0]);
  const depthSpx = plane
    ? standingAt(scene, plane, frame).depthSpx
    : shownValueAt(scene, { on: 'camera', name: 'focus' }, frame);
  const { widthPx, heightPx } = scene.frame;
  session.commit(
    'add-lamp',
    name,
    addLamp(scene, {
      id,
      name,
      colour: WARM,
      widthSpx: widthPx * LAMP_WIDTH,
      depthSpx,
      at: { x: widthPx / 2, y: heightPx / 2 },
      frame,
    }),
  );
  session.select([id]);
}

function newCardBefore(session: Session): void {
  const { scene } = session.state;
  const id = newPlaneId();
  const name = freeName(scene, say.card);
  const paint = { kind: 'solid', colour: '#000000', opacity: 0.5 } as const;
  session.commit('add-lamp', name, addCardBeforeCamera(scene, { id, name, paint }));
  session.select([id]);
}
