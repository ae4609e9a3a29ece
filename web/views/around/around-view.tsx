import { cameraPoseAt, standingsAt } from '@keen-ridge/core/staging';
import { useEffect, useRef, useState } from 'react';
import { subjectOf, withDepth } from '../../edits/depth-edits.ts';
import { SURROUND_GREY, usePreferences } from '../../session/choices/preferences.ts';
import { chooseClicked, clickKeys } from '../../session/choices/selection.ts';
import { sceneDrag } from '../../session/scene-trial.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { useDrag } from '../../ui/pointer/drag.ts';
import { useElementSize } from '../../ui/use-element-size.ts';
import { viewsWords as say } from '../../words/views.ts';
import { OrbitScene } from './orbit-scene.ts';
import { cardsOf, coneOf } from './stage-model.ts';

/** The stage from outside: planes as painted cards, the cone of view. Click a card; drag a chosen one along its depth. */
export function AroundView() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const room = useRef<HTMLDivElement>(null);
  const { width, height } = useElementSize(room);
  const surround = usePreferences((state) => state.surround);
  const [orbit, setOrbit] = useState<OrbitScene | null>(null);
  const [fault, setFault] = useState(false);
  const home = useSessionState((state) => state.scene.homeDistanceSpx);

  useEffect(() => {
    if (!canvas.current) return;
    try {
      const made = new OrbitScene(canvas.current);
      setOrbit(made);
      return () => made.close();
    } catch {
      // Only this view needs WebGL; everything else goes on without.
      setFault(true);
    }
  }, []);
  useEffect(() => {
    if (width > 0) orbit?.resize(width, height, SURROUND_GREY[surround]);
  }, [orbit, width, height, surround]);
  const sized = width > 0;
  useEffect(() => {
    if (sized) orbit?.lookFrom(home);
  }, [orbit, home, sized]);
  useShownStage(orbit);
  const drag = useCardDrag(orbit);

  return (
    <div
      ref={room}
      role="application"
      aria-label={say.theStageFromAroundDrag}
      className="relative min-h-0 min-w-0 flex-1 touch-none overflow-hidden"
      {...drag}
    >
      <canvas ref={canvas} data-testid="around" className="absolute inset-0 h-full w-full" />
      {fault && (
        <p role="alert" className="absolute inset-x-0 top-1/2 mx-auto w-fit bg-raised px-4 py-2 text-fault">
          {say.thisBrowserHasNoWebgl}
        </p>
      )}
      <div className="absolute right-2 bottom-2">
        <Button
          onPointerDownCapture={(event) => event.stopPropagation()}
          onClick={() => orbit?.lookFrom(home)}
        >
          {say.fromTheStart}
        </Button>
      </div>
    </div>
  );
}

/** Keeps the view in step with the scene, the playhead, what is chosen and the sway. */
function useShownStage(orbit: OrbitScene | null): void {
  const session = useSession();
  const scene = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const selection = useSessionState((state) => state.selection);
  useEffect(() => {
    orbit?.showCards(cardsOf(scene, frame), selection);
  }, [orbit, scene, frame, selection]);
  useEffect(() => {
    if (!orbit) return;
    const show = () =>
      orbit.showCone(coneOf(scene, frame, session.swayed.getState().pose ?? cameraPoseAt(scene, frame)));
    show();
    return session.swayed.subscribe(show);
  }, [orbit, scene, frame, session]);
}

/** A press on a chosen card takes it along its depth; on another it chooses that plane, unless the stage is turned. */
function useCardDrag(orbit: OrbitScene | null) {
  const session = useSession();
  const drag = useDrag<HTMLDivElement>(
    (event) => {
      if (!orbit) return null;
      const box = event.currentTarget.getBoundingClientRect();
      const id = orbit.planeAt(event.clientX - box.left, event.clientY - box.top);
      const { scene, frame, selection } = session.state;
      const keys = clickKeys(event);
      const along = id !== null && selection.includes(id) && !keys.add && !keys.shift;
      orbit.orbiting = !along;
      const rest = () => {
        orbit.orbiting = true;
      };
      const click = () => {
        rest();
        if (id) chooseClicked(session, id, keys);
      };
      if (!id) return null;
      const corner = cardsOf(scene, frame).find((card) => card.id === id)?.corners[0];
      const fromDepth = standingsAt(scene, frame).get(id)?.depthSpx;
      const step = corner && orbit.depthStep(corner);
      const square = step ? step.x * step.x + step.y * step.y : 0;
      if (!along || !step || fromDepth === undefined || square < 1e-12)
        return { click, keep: rest, drop: rest };
      const { holdPicture } = usePreferences.getState();
      return sceneDrag(session, {
        action: 'set-depth',
        subject: subjectOf(scene, [id]),
        change: (kept, { dx, dy }) =>
          withDepth(kept, [id], fromDepth + (dx * step.x + dy * step.y) / square, frame, holdPicture),
        click,
        kept: rest,
        drop: rest,
      });
    },
    // The turning of the stage follows the same pointer by itself.
    { slackPx: 4, capture: false, passes: true },
  );
  return { onPointerDownCapture: drag.onPointerDown };
}
