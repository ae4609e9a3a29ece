import { type PlaneId, type Scene, spreadPlanes, standingsAt } from '@keen-ridge/core/document';
import { SPREAD_STEPS, type Spread, type SpreadStep } from '@keen-ridge/core/stage';
import { Slider } from 'radix-ui';
import { useState } from 'react';
import { usePreferences } from '../state/preferences.ts';
import type { Session } from '../state/session.ts';
import { useSession, useSessionState } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { NumberField } from '../ui/number-field.tsx';
import { Popover } from '../ui/popover.tsx';

const WORDS: Readonly<Record<SpreadStep, string>> = { speed: 'Speed', distance: 'Distance', ratio: 'Ratio' };
const FIRST: Spread = { nearestSpeed: 1.4, farthestSpeed: 0.12, step: 'ratio', strength: 1 };

/** What Spread works on: the chosen planes if there are several, else all that stand on the stage. */
function spreadIds({ selection }: { selection: readonly PlaneId[] }, scene: Scene): Set<PlaneId> {
  if (selection.length > 1) return new Set(selection);
  return new Set(scene.planes.filter((plane) => !plane.locked).map((plane) => plane.id));
}

const spreadScene = (session: Session, spread: Spread): Scene => {
  const { scene, frame } = session.state;
  const { holdPicture } = usePreferences.getState();
  return spreadPlanes(scene, spreadIds(session.state, scene), spread, { atFrame: frame, holdPicture });
};

/** From a flat stack to a stage: everything is seen at once while it is tried, and kept as one edit. */
export function SpreadPopover() {
  const session = useSession();
  const [open, setOpen] = useState(false);
  const [spread, setSpread] = useState(FIRST);
  const empty = useSessionState((state) => state.scene.planes.length === 0);
  const change = (part: Partial<Spread>) => {
    const next = { ...spread, ...part };
    setSpread(next);
    session.show(spreadScene(session, next));
  };
  const end = () => {
    setOpen(false);
    session.show(null);
  };
  return (
    <Popover
      label="Spread …"
      disabled={empty}
      open={open}
      onOpenChange={(wanted) => {
        if (!wanted) return end();
        setOpen(true);
        session.show(spreadScene(session, spread));
      }}
    >
      <SpreadSubject />
      <div className="mt-2 grid grid-cols-2 gap-2">
        <NumberField
          label="Nearest speed"
          unit="%"
          min={1}
          max={5000}
          value={spread.nearestSpeed * 100}
          onPreview={(v) => change({ nearestSpeed: v / 100 })}
          onCommit={(v) => change({ nearestSpeed: v / 100 })}
        />
        <NumberField
          label="Farthest speed"
          unit="%"
          min={0.1}
          max={5000}
          value={spread.farthestSpeed * 100}
          onPreview={(v) => change({ farthestSpeed: v / 100 })}
          onCommit={(v) => change({ farthestSpeed: v / 100 })}
        />
      </div>
      <div className="mt-3">
        <Choice
          label="Even steps of"
          options={SPREAD_STEPS}
          words={WORDS}
          value={spread.step}
          onChange={(step) => change({ step })}
        />
      </div>
      <p className="mb-1 mt-3 flex justify-between text-[11px] text-ink-2">
        Strength <span className="num">{Math.round(spread.strength * 100)} %</span>
      </p>
      <Slider.Root
        min={0}
        max={2}
        step={0.01}
        value={[spread.strength]}
        className="relative flex h-5 items-center"
        onValueChange={([strength]) => strength !== undefined && change({ strength })}
      >
        <Slider.Track className="relative h-[3px] flex-1 bg-rule">
          <Slider.Range className="absolute h-full bg-ink" />
        </Slider.Track>
        <Slider.Thumb
          aria-label="Strength"
          className="block h-4 w-4 rounded-full border border-ink bg-raised"
        />
      </Slider.Root>
      <div className="mt-3 flex justify-end gap-2">
        <Button onClick={end}>Leave as it was</Button>
        <Button
          tone="strong"
          onClick={() => {
            const ids = spreadIds(session.state, session.state.scene);
            session.commit('spread-planes', `${ids.size} planes`, spreadScene(session, spread));
            setOpen(false);
          }}
        >
          Spread
        </Button>
      </div>
    </Popover>
  );
}

function SpreadSubject() {
  const session = useSession();
  const scene = useSessionState((state) => state.scene);
  const ids = spreadIds(session.state, scene);
  const standings = standingsAt(scene, 1);
  const moving = scene.planes.filter(
    (plane) => ids.has(plane.id) && !plane.locked && standings.get(plane.id)?.root === 'stage',
  );
  const chosen = session.state.selection.length > 1 ? 'the chosen' : 'all';
  return (
    <p className="text-[12px] text-ink-2">
      {`Places ${chosen} ${moving.length} planes by depth, in their order; locked ones stay.`}
    </p>
  );
}
