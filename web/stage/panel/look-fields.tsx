import { setGrade } from '@keen-ridge/core/edits/look';
import { type Grade, PLAIN_GRADE } from '@keen-ridge/core/paint';
import type { Plane, Scene } from '@keen-ridge/core/scene';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { subjectOf } from '../../edits/depth-edits.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { sceneTrial } from '../../session/scene-trial.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { ColourField } from '../../ui/fields/colour-field.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { formatNumber } from '../../ui/format.ts';
import { setOnce } from '../../ui/trial.ts';
import { stageWords as say } from '../../words/stage.ts';
import { common } from './common.ts';

const SHARES = [
  { name: 'brightness', label: say.brightness, most: 4 },
  { name: 'saturation', label: say.saturation, most: 4 },
] as const;

/** The planes' own grade: brightness, saturation, a glass of a tint before them, and a blur. */
export function LookFields({ planes, scene }: { planes: readonly Plane[]; scene: Scene }) {
  const session = useSession();
  const ids = new Set(planes.map(({ id }) => id));
  const subject = subjectOf(scene, [...ids]);
  const gradeOf = ({ grade }: Plane): Grade => grade ?? PLAIN_GRADE;
  const grade = <T,>(part: (value: T) => Partial<Grade>) =>
    sceneTrial<T>(session, 'set-grade', subject, (kept, value) => setGrade(kept, ids, part(value)));
  const tint = planes[0] ? gradeOf(planes[0]).tint : PLAIN_GRADE.tint;
  return (
    <>
      <div className="flex items-end gap-2">
        {SHARES.map(({ name, label, most }) => (
          <NumberField
            key={name}
            className="w-24"
            label={label}
            unit="%"
            min={0}
            max={most * 100}
            value={common(planes, (plane) => gradeOf(plane)[name] * 100)}
            trial={grade((v: number) => ({ [name]: v / 100 }))}
          />
        ))}
        <ColourField label={say.tint} colour={tint} trial={grade((colour: string) => ({ tint: colour }))} />
        <NumberField
          className="w-24"
          label={say.tintStrength}
          unit="%"
          min={0}
          max={100}
          value={common(planes, (plane) => gradeOf(plane).tintStrength * 100)}
          trial={grade((v: number) => ({ tintStrength: v / 100 }))}
        />
        <NumberField
          className="w-24"
          label={say.blurWidth}
          unit="px"
          decimals={1}
          step={0.5}
          min={0}
          max={1000}
          value={common(planes, (plane) => gradeOf(plane).blurPx)}
          trial={grade((v: number) => ({ blurPx: v }))}
        />
        {planes.some((plane) => plane.grade) && (
          <Button
            onClick={() =>
              setOnce(
                grade(() => PLAIN_GRADE),
                null,
              )
            }
          >
            {say.asPainted}
          </Button>
        )}
      </div>
      {planes.length === 1 && planes[0] && <SeenWords plane={planes[0]} scene={scene} />}
    </>
  );
}

/** What air and lens do to the plane at this frame, in one sentence. */
function SeenWords({ plane, scene }: { plane: Plane; scene: Scene }) {
  const frame = useCalmFrame();
  const seen = framePlan(scene, frame).planes.find(({ planeId }) => planeId === plane.id);
  if (seen?.state !== 'drawn') return null;
  const parts = [
    seen.look.air &&
      `${formatNumber(seen.look.air.transmission * 100, 0)} % of its light comes through the air`,
    seen.defocusPx >= 0.5 && `out of focus by ${formatNumber(seen.defocusPx, 1)} px`,
    seen.blurPx >= 0.5 && `blurred by ${formatNumber(seen.blurPx, 1)} px`,
  ].filter((part) => typeof part === 'string');
  return (
    <p className="narrow mt-2 truncate text-[12.5px]">
      {parts.length === 0 ? say.sharpAndClearAtThis : `At this frame ${parts.join(', ')}.`}
    </p>
  );
}
