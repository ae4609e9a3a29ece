import type { PlaneId } from '@keen-ridge/core/scene';
import { cameraPoseAt, standingsAt } from '@keen-ridge/core/staging';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { subjectOf, withDepth } from '../../edits/depth-edits.ts';
import { SURROUND_GREY, usePreferences } from '../../session/choices/preferences.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { useElementSize } from '../../ui/use-element-size.ts';
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
  const handlers = useCardDrag(orbit);

  return (
    <div
      ref={room}
      role="application"
      aria-label="The stage from around. Drag to go round it; click a card to choose its plane, drag a chosen card along its depth."
      className="relative min-h-0 min-w-0 flex-1 touch-none overflow-hidden"
      onPointerDownCapture={handlers.onDown}
      onPointerMove={handlers.onMove}
      onPointerUp={handlers.onUp}
      onPointerCancel={handlers.onUp}
    >
      <canvas ref={canvas} data-testid="around" className="absolute inset-0 h-full w-full" />
      {fault && (
        <p role="alert" className="absolute inset-x-0 top-1/2 mx-auto w-fit bg-raised px-4 py-2 text-fault">
          This browser has no WebGL, which this view needs. The other views do not.
        </p>
      )}
      <div className="absolute right-2 bottom-2">
        <Button
          onPointerDownCapture={(event) => event.stopPropagation()}
          onClick={() => orbit?.lookFrom(home)}
        >
          From the start
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

interface CardDrag {
  readonly id: PlaneId;
  readonly x: number;
  readonly y: number;
  readonly fromDepth: number;
  /** CSS px on the canvas for one px of depth. */
  readonly step: { readonly x: number; readonly y: number };
  readonly along: boolean;
  moved: boolean;
}

const CLICK_SLACK_PX = 4;

function useCardDrag(orbit: OrbitScene | null) {
  const session = useSession();
  const drag = useRef<CardDrag | null>(null);
  const sceneAt = (event: PointerEvent<HTMLDivElement>) => {
    const under = drag.current;
    if (!under) return null;
    const by = { x: event.clientX - under.x, y: event.clientY - under.y };
    if (!under.moved && Math.hypot(by.x, by.y) < CLICK_SLACK_PX) return null;
    under.moved = true;
    const { step, id } = under;
    const square = step.x * step.x + step.y * step.y;
    if (!under.along || square < 1e-12) return null;
    const depthSpx = under.fromDepth + (by.x * step.x + by.y * step.y) / square;
    const { scene, frame } = session.state;
    return withDepth(scene, [id], depthSpx, frame, usePreferences.getState().holdPicture);
  };
  return {
    onDown: (event: PointerEvent<HTMLDivElement>) => {
      if (!orbit || event.button !== 0) return;
      const box = event.currentTarget.getBoundingClientRect();
      const id = orbit.planeAt(event.clientX - box.left, event.clientY - box.top);
      const { scene, frame, selection } = session.state;
      const along = id !== null && selection.includes(id);
      orbit.orbiting = !along;
      if (!id) return;
      const card = cardsOf(scene, frame).find((c) => c.id === id);
      const fromDepth = standingsAt(scene, frame).get(id)?.depthSpx;
      if (!card || fromDepth === undefined || !card.corners[0]) return;
      if (along) event.currentTarget.setPointerCapture(event.pointerId);
      const step = orbit.depthStep(card.corners[0]);
      drag.current = { id, x: event.clientX, y: event.clientY, fromDepth, step, along, moved: false };
    },
    onMove: (event: PointerEvent<HTMLDivElement>) => {
      const scene = sceneAt(event);
      if (scene) session.show(scene);
    },
    onUp: (event: PointerEvent<HTMLDivElement>) => {
      const scene = sceneAt(event);
      const ended = drag.current;
      drag.current = null;
      if (orbit) orbit.orbiting = true;
      if (scene && ended) session.commit('set-depth', subjectOf(scene, [ended.id]), scene);
      else if (ended && !ended.moved) session.select([ended.id]);
    },
  };
}
