import {
  ALIGNMENTS,
  type Alignment,
  addCarrier,
  alignPlanes,
  boxesOnFrame,
  boxRound,
  distributePlanes,
  fillFrame,
  flipPlanes,
  freeName,
  nudgePlanes,
  setPlaneAnchor,
  setPlaneTransform,
  sizePlanesOnFrame,
  turnPlanesOnFrame,
  withoutRiders,
} from '@keen-ridge/core/edits/planes';
import type { Point } from '@keen-ridge/core/geometry';
import type { EditAction } from '@keen-ridge/core/history';
import { type Plane, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { posedPlane } from '@keen-ridge/core/staging';
import { useState } from 'react';
import { subjectOf } from '../../edits/depth-edits.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { sceneTrial } from '../../session/scene-trial.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { Popover } from '../../ui/popover.tsx';
import { stageWords as say } from '../../words/stage.ts';

/** Where the planes stand and how large they are, turned or turned over. */
export function PlaceFields({ planes, scene }: { planes: readonly Plane[]; scene: Scene }) {
  const [only] = planes;
  return (
    <>
      {planes.length === 1 && only ? <OnePlace plane={only} /> : <ManyPlaces planes={planes} scene={scene} />}
      <PlaceCommands planes={planes} scene={scene} />
    </>
  );
}

const SIZE = { unit: '×', decimals: 3, min: 0.0001, max: 1e5, step: 0.01 } as const;

function OnePlace({ plane }: { plane: Plane }) {
  const session = useSession();
  const frame = useCalmFrame();
  // A plane that moves by itself is shown and set as it stands at this frame; the rest of its move shifts alike.
  const { transform } = posedPlane(plane, frame);
  const field = (part: (value: number) => Partial<typeof transform>) =>
    sceneTrial<number>(session, 'place-plane', plane.name, (kept, v) =>
      setPlaneTransform(kept, plane.id, part(v), frame),
    );
  const signOf = (scale: number) => (scale < 0 ? -1 : 1);
  return (
    <div className="grid grid-cols-4 gap-1.5 @[540px]:grid-cols-[1.25fr_1.25fr_1fr_1fr_1fr_0.9fr_0.85fr_0.85fr]">
      <NumberField
        label={say.east}
        unit="px"
        decimals={1}
        value={transform.xSpx}
        trial={field((v) => ({ xSpx: v }))}
      />
      <NumberField
        label={say.south}
        unit="px"
        decimals={1}
        value={transform.ySpx}
        trial={field((v) => ({ ySpx: v }))}
      />
      <NumberField
        label={say.size}
        {...SIZE}
        value={Math.abs(transform.scaleX)}
        trial={field((v) => {
          const ratio = v / Math.abs(transform.scaleX);
          return { scaleX: transform.scaleX * ratio, scaleY: transform.scaleY * ratio };
        })}
      />
      <NumberField
        label={say.wide}
        {...SIZE}
        value={Math.abs(transform.scaleX)}
        trial={field((v) => ({ scaleX: v * signOf(transform.scaleX) }))}
      />
      <NumberField
        label={say.high}
        {...SIZE}
        value={Math.abs(transform.scaleY)}
        trial={field((v) => ({ scaleY: v * signOf(transform.scaleY) }))}
      />
      <NumberField
        label={say.rotation}
        unit="°"
        decimals={2}
        step={0.5}
        min={-3600}
        max={3600}
        value={transform.rotationDeg}
        trial={field((v) => ({ rotationDeg: v }))}
      />
      {(['x', 'y'] as const).map((axis) => (
        <NumberField
          key={axis}
          label={axis === 'x' ? say.anchorE : say.anchorS}
          unit="px"
          value={axis === 'x' ? transform.anchorXArtPx : transform.anchorYArtPx}
          trial={sceneTrial(session, 'place-plane', plane.name, (kept, v) =>
            setPlaneAnchor(
              kept,
              plane.id,
              {
                x: axis === 'x' ? v : transform.anchorXArtPx,
                y: axis === 'y' ? v : transform.anchorYArtPx,
              },
              session.state.frame,
            ),
          )}
        />
      ))}
    </div>
  );
}

function ManyPlaces({ planes, scene }: { planes: readonly Plane[]; scene: Scene }) {
  const session = useSession();
  const frame = useCalmFrame();
  const ids = planes.map(({ id }) => id);
  /** About the middle of what they paint on the picture, as their handles do. */
  const withTogether = (
    kept: Scene,
    change: (chosen: ReadonlySet<Plane['id']>, middle: Point) => Scene,
  ): Scene => {
    const chosen = new Set(ids);
    const box = boxRound(boxesOnFrame(kept, chosen, frame).map((one) => one.box));
    return box ? change(chosen, { x: (box.x0 + box.x1) / 2, y: (box.y0 + box.y1) / 2 }) : kept;
  };
  return (
    <div className="grid grid-cols-3 gap-2 @[540px]:grid-cols-6">
      {(['East', 'South'] as const).map((way) => (
        <NumberField
          key={way}
          label={say.wayBy(way)}
          unit="px"
          decimals={1}
          value={0}
          trial={sceneTrial(session, 'place-plane', subjectOf(scene, ids), (kept, v) =>
            nudgePlanes(
              kept,
              withoutRiders(kept, new Set(ids)),
              way === 'East' ? v : 0,
              way === 'South' ? v : 0,
            ),
          )}
        />
      ))}
      <NumberField
        label={say.sizeBy}
        {...SIZE}
        value={1}
        trial={sceneTrial(session, 'place-plane', subjectOf(scene, ids), (kept, ratio) =>
          withTogether(kept, (chosen, middle) => sizePlanesOnFrame(kept, chosen, middle, ratio, frame)),
        )}
      />
      <NumberField
        label={say.turnBy}
        unit="°"
        decimals={2}
        step={0.5}
        min={-3600}
        max={3600}
        value={0}
        trial={sceneTrial(session, 'place-plane', subjectOf(scene, ids), (kept, deg) =>
          withTogether(kept, (chosen, middle) => turnPlanesOnFrame(kept, chosen, middle, deg, frame)),
        )}
      />
    </div>
  );
}

function PlaceCommands({ planes, scene }: { planes: readonly Plane[]; scene: Scene }) {
  const session = useSession();
  const ids = new Set(planes.map(({ id }) => id));
  const subject = subjectOf(scene, [...ids]);
  const run = (action: EditAction, change: (kept: Scene) => Scene) => () =>
    session.commit(action, subject, change(session.state.scene));
  const fill = (how: 'fit' | 'cover') =>
    run('fit-plane', (kept) => [...ids].reduce((next, id) => fillFrame(next, id, how), kept));
  const carry = run('add-carrier', (kept) => {
    const carrier = { id: planeIdSchema.parse(crypto.randomUUID()), name: freeName(kept, 'Carrier') };
    return addCarrier(kept, ids, carrier, session.state.frame);
  });
  return (
    <div className="mt-2 flex flex-wrap gap-1.5">
      <Button onClick={run('flip-planes', (kept) => flipPlanes(kept, ids, 'across'))}>{say.flipEW}</Button>
      <Button onClick={run('flip-planes', (kept) => flipPlanes(kept, ids, 'down'))}>{say.flipNS}</Button>
      <Button title={say.asLargeAsFitsInto} onClick={fill('fit')}>
        {say.fit}
      </Button>
      <Button title={say.soLargeThatTheWhole} onClick={fill('cover')}>
        {say.cover}
      </Button>
      <AlignPopover ids={ids} subject={subject} />
      <Button title={say.anEmptyPlaneThatThey} onClick={carry}>
        {say.addCarrier}
      </Button>
    </div>
  );
}

const ALIGN_WORDS: Readonly<Record<Alignment, string>> = {
  left: say.west,
  centre: say.centre,
  right: say.east,
  top: say.north,
  middle: say.middle,
  bottom: say.south,
};
const TO_WORDS = { frame: say.theFrame, 'each-other': say.eachOther } as const;

function AlignPopover({ ids, subject }: { ids: ReadonlySet<Plane['id']>; subject: string }) {
  const session = useSession();
  const frame = useCalmFrame();
  const [to, setTo] = useState<'frame' | 'each-other'>('frame');
  const align = (alignment: Alignment) => () =>
    session.commit('align-planes', subject, alignPlanes(session.state.scene, ids, alignment, to, frame));
  const distribute = (way: 'across' | 'down') => () =>
    session.commit('align-planes', subject, distributePlanes(session.state.scene, ids, way, to, frame));
  return (
    <Popover label={say.align}>
      <Choice
        label={say.to}
        options={['frame', 'each-other'] as const}
        words={TO_WORDS}
        value={to}
        onChange={setTo}
      />
      <div className="mt-3 grid grid-cols-3 gap-1.5">
        {ALIGNMENTS.map((alignment) => (
          <Button key={alignment} onClick={align(alignment)}>
            {ALIGN_WORDS[alignment]}
          </Button>
        ))}
      </div>
      <div className="mt-3 flex gap-1.5">
        <Button disabled={ids.size < 2} onClick={distribute('across')}>
          {say.spaceEW}
        </Button>
        <Button disabled={ids.size < 2} onClick={distribute('down')}>
          {say.spaceNS}
        </Button>
      </div>
      <p className="mt-3 text-[12px] text-ink-2">{say.byThePaintAsIt}</p>
    </Popover>
  );
}
