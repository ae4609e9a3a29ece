import { setPlanesDepth, spreadPlanes } from '@keen-ridge/core/edits/depth';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { SPREAD_STEPS, type Spread, type SpreadStep } from '@keen-ridge/core/stage';
import { SET_UP_FRAME } from '@keen-ridge/core/survey';
import { Slider } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { usePreferences } from '../../session/choices/preferences.ts';
import type { Gesture } from '../../session/gesture.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { useFoldDock } from '../../ui/dock.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { settingTrial } from '../../ui/trial.ts';
import { stageWords as say } from '../../words/stage.ts';
import { useArtDepths } from './use-art-depths.ts';

/** By even steps from a nearest to a farthest plane, or each as far as its art is made for. */
const WAYS = [...SPREAD_STEPS, 'art'] as const;
type Way = SpreadStep | 'art';
const WORDS: Readonly<Record<Way, string>> = {
  speed: say.speed,
  distance: say.distance,
  ratio: say.ratio,
  art: say.asPainted,
};
const FIRST: Spread = { nearestSpeed: 1.4, farthestSpeed: 0.12, step: 'ratio', strength: 1 };

/** What Spread works on: the chosen planes if there are several, else all; those that may not move stay out. */
function spreadIds(selection: readonly PlaneId[], scene: Scene): Set<PlaneId> {
  const free = planesOf(scene).filter(({ mount, locked }) => mount.on === 'stage' && !locked);
  const chosen = selection.length > 1 ? free.filter(({ id }) => selection.includes(id)) : free;
  return new Set(chosen.map(({ id }) => id));
}

/** From a flat stack to a stage: everything is seen at once while it is tried, and kept as one edit. */
export function SpreadPanel() {
  const onClose = useFoldDock();
  const session = useSession();
  const [spread, setSpread] = useState(FIRST);
  const [byArt, setByArt] = useState(false);
  const [sparePx, setSparePx] = useState(0);
  const scene = useSessionState((state) => state.scene);
  const selection = useSessionState((state) => state.selection);
  const ids = spreadIds(selection, scene);
  const count = ids.size;
  const depths = useArtDepths(scene, ids, sparePx, byArt);
  const served = [...depths.values()].filter((depth) => depth !== null).length;
  const tried = useRef<Gesture | null>(null);
  const subject = `${count} planes`;
  // What is tried is shown from the start, and anew when other planes are chosen; it goes when the panel does.
  useEffect(() => {
    const { holdPicture } = usePreferences.getState();
    const atFrame = session.state.frame;
    let mine = false;
    // Something else has taken its place: there is nothing left here to keep.
    const gesture = session.begin('spread-planes', subject, () => {
      if (!mine) onClose();
    });
    tried.current = gesture;
    gesture.update((kept) => {
      if (!byArt) return spreadPlanes(kept, spreadIds(selection, kept), spread, { atFrame, holdPicture });
      const goals = [...depths].flatMap(([id, depth]) => (depth === null ? [] : [[id, depth] as const]));
      return setPlanesDepth(kept, new Map(goals), { atFrame: SET_UP_FRAME, holdPicture: true });
    });
    return () => {
      mine = true;
      gesture.drop();
    };
  }, [session, spread, byArt, depths, selection, subject, onClose]);
  const change = (part: Partial<Spread>) => setSpread({ ...spread, ...part });
  const speedField = (name: 'nearestSpeed' | 'farthestSpeed') => ({
    unit: '%',
    min: 0.1,
    max: 5000,
    value: spread[name] * 100,
    trial: settingTrial(spread[name] * 100, (value: number) => change({ [name]: value / 100 })),
  });
  return (
    <div>
      <div className="grid grid-cols-2 gap-2">
        {byArt ? (
          <NumberField
            label={say.spareAtTheEnds}
            unit="px"
            min={0}
            max={10_000}
            value={sparePx}
            onCommit={setSparePx}
          />
        ) : (
          <>
            <NumberField label={say.nearestSpeed} {...speedField('nearestSpeed')} />
            <NumberField label={say.farthestSpeed} {...speedField('farthestSpeed')} />
          </>
        )}
        <div className="col-span-2">
          <Choice
            label={say.fromPlaneToPlaneThe}
            columns={4}
            options={WAYS}
            words={WORDS}
            value={byArt ? 'art' : spread.step}
            onChange={(way) => {
              setByArt(way === 'art');
              if (way !== 'art') change({ step: way });
            }}
          />
        </div>
      </div>
      <div className="mt-2 flex items-center gap-2">
        <span className="text-[11px] text-ink-2">{say.strength}</span>
        <Slider.Root
          min={0}
          max={2}
          step={0.01}
          value={[spread.strength]}
          className="relative flex h-5 flex-1 items-center"
          onValueChange={([strength]) => strength !== undefined && change({ strength })}
        >
          <Slider.Track className="relative h-[3px] flex-1 bg-rule">
            <Slider.Range className="absolute h-full bg-ink" />
          </Slider.Track>
          <Slider.Thumb
            aria-label={say.strength}
            className="relative block h-4 w-4 rounded-full border border-ink bg-raised before:absolute before:-inset-1 before:content-['']"
          />
        </Slider.Root>
        <span className="num w-12 text-right">{Math.round(spread.strength * 100)} %</span>
      </div>
      {/* In sight however low the dock is. */}
      <div className="sticky -bottom-3 mt-1 flex justify-end gap-2 bg-raised py-2">
        <Button onClick={onClose}>{say.cancel}</Button>
        <Button
          tone="strong"
          onClick={() => {
            tried.current?.keep();
            onClose();
          }}
        >
          {say.spreadCount(count)}
        </Button>
      </div>
      <p className="mt-1.5 text-[12px] text-ink-2">
        {byArt ? say.servedOfCountGoTo(served, count) : say.inTheirOrderNearTo}
      </p>
    </div>
  );
}
