import { setBlendMode, setFlicker, setGrade } from '@keen-ridge/core/edits/look';
import { BLEND_MODES, type BlendMode, PLAIN_GRADE } from '@keen-ridge/core/paint';
import type { Flicker, Plane } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import type { ChannelRef, PLANE_CHANNELS } from '@keen-ridge/core/staging';
import { subjectOf } from '../../edits/depth-edits.ts';
import { useCalmScene } from '../../session/pace/use-calm.ts';
import { sceneTrial } from '../../session/scene-trial.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Checkbox } from '../../ui/fields/checkbox.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { Select } from '../../ui/fields/select.tsx';
import { MODE_WORDS, lookWords as say } from '../../words/look.ts';
import { LookField } from './look-field.tsx';

const FIELDS = [
  { name: 'brightness', label: say.brightness },
  { name: 'saturation', label: say.saturation },
  { name: 'tint', label: say.tint },
  { name: 'tintStrength', label: say.tintStrength },
  { name: 'opacity', label: say.opacity },
  { name: 'blur', label: say.blur },
] as const satisfies readonly { name: (typeof PLANE_CHANNELS)[number]; label: string }[];

/** What the chosen planes have of their own: grade, blur, soft edge, how they are laid over, flicker. */
export function PlaneLook() {
  const session = useSession();
  const scene = useCalmScene();
  const selection = useSessionState((state) => state.selection);
  const planes = planesOf(scene).filter(({ id }) => selection.includes(id));
  const [first] = planes;
  if (!first) return <p className="mt-3 border-t border-rule pt-3 text-ink-2">{say.chooseAPlane}</p>;
  const ids = new Set(planes.map(({ id }) => id));
  const subject = subjectOf(scene, [...ids]);
  const refs = (name: (typeof PLANE_CHANNELS)[number]): ChannelRef[] =>
    planes.map(({ id }) => ({ on: 'plane', plane: id, name }) as ChannelRef);
  const modeOf = (plane: Plane): BlendMode => plane.mode ?? 'paint';
  const same = planes.every((plane) => modeOf(plane) === modeOf(first));
  const painted = planes.every(({ content }) => content.kind === 'still' || content.kind === 'moving');
  const graded = planes.some(({ grade, mode }) => grade || mode);
  return (
    <section aria-label={subject} className="mt-3 border-t border-rule pt-3">
      <p className="mb-2 flex items-center">
        <span className="narrow min-w-0 flex-1 truncate">
          <span className="font-semibold">
            {planes.length === 1 ? first.name : say.lengthPlanes(planes.length)}
          </span>{' '}
          <span className="text-ink-2">{say.alone}</span>
        </span>
        {graded && (
          <Button
            tone="bare"
            onClick={() => {
              const plain = setGrade(session.state.scene, ids, { ...PLAIN_GRADE, softEdgePx: 0 });
              session.commit('set-grade', subject, setBlendMode(plain, ids, 'paint'));
            }}
          >
            {say.asPainted}
          </Button>
        )}
      </p>
      <div className="grid grid-cols-2 gap-x-1.5 gap-y-1.5">
        {FIELDS.map(({ name, label }) => (
          <LookField key={name} label={label} subject={`${subject} ${label}`} refs={refs(name)} />
        ))}
        <Select
          label={say.laidOverAs}
          className="pr-[26px]"
          options={BLEND_MODES}
          words={MODE_WORDS}
          value={same ? modeOf(first) : ''}
          placeholder={say.several}
          onChange={(mode) =>
            session.commit('set-mode', subject, setBlendMode(session.state.scene, ids, mode))
          }
        />
        {painted ? (
          <LookField label={say.softEdge} subject={`${subject} ${say.softEdge}`} refs={refs('softEdge')} />
        ) : (
          <p className="pt-1 text-[11px] text-ink-2">{say.softEdgeIsForPaintings}</p>
        )}
      </div>
      <FlickerFields planes={planes} subject={subject} />
    </section>
  );
}

const USUAL_FLICKER: Flicker = { on: true, amount: 0.2, frequencyHz: 6, seed: 1, loops: false };

/** A light that flickers by itself; off and on without losing what it was. */
function FlickerFields({ planes, subject }: { planes: readonly Plane[]; subject: string }) {
  const session = useSession();
  const ids = new Set(planes.map(({ id }) => id));
  const flicker = planes[0]?.flicker;
  const set = (part: Partial<Flicker>) =>
    session.commit(
      'set-flicker',
      subject,
      setFlicker(session.state.scene, ids, { ...(flicker ?? USUAL_FLICKER), ...part }),
    );
  const trial = (part: (value: number) => Partial<Flicker>) =>
    sceneTrial<number>(session, 'set-flicker', subject, (kept, value) =>
      setFlicker(kept, ids, { ...(flicker ?? USUAL_FLICKER), ...part(value) }),
    );
  return (
    <div className="mt-2">
      <Checkbox checked={flicker?.on === true} onChange={(on) => set({ on })}>
        {say.flickers}
      </Checkbox>
      {flicker?.on && (
        <>
          <div className="mt-1.5 grid grid-cols-3 gap-x-1.5">
            <NumberField
              label={say.flickerBy}
              unit="%"
              min={0}
              max={100}
              value={flicker.amount * 100}
              trial={trial((v) => ({ amount: v / 100 }))}
            />
            <NumberField
              label={say.flickerHz}
              unit="Hz"
              decimals={1}
              step={0.5}
              min={0.01}
              max={100}
              value={flicker.frequencyHz}
              trial={trial((frequencyHz) => ({ frequencyHz }))}
            />
            <NumberField
              label={say.flickerSeed}
              unit=""
              min={0}
              max={1e9}
              value={flicker.seed}
              onCommit={(seed) => set({ seed: Math.round(seed) })}
            />
          </div>
          <Checkbox className="mt-1" checked={flicker.loops} onChange={(loops) => set({ loops })}>
            {say.flickerLoops}
          </Checkbox>
        </>
      )}
    </div>
  );
}
