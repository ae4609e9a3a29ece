import { type Content, CYCLES, type Cycle, type Plane } from '@keen-ridge/core/scene';
import { exposureIndexAt } from '@keen-ridge/core/staging/content';
import { parseRational, rationalText } from '@keen-ridge/core/units';
import { useState } from 'react';
import { contentTrial } from '../../edits/art-edits.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { Select } from '../../ui/fields/select.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { setOnce } from '../../ui/trial.ts';
import { artWords as say } from '../../words/art.ts';
import { ExposureStrip } from './exposure-strip.tsx';

type Moving = Extract<Content, { kind: 'moving' }>;
const CYCLE_WORDS: Readonly<Record<Cycle, string>> = {
  loop: say.repeat,
  once: say.once,
  'there-and-back': say.thereAndBack,
};

/** The exposures of a moving plane: how long each is held, how they repeat, where they begin, at what rate. */
export function MovingEditor({ plane, content }: { plane: Plane; content: Moving }) {
  const session = useSession();
  const frame = useCalmFrame();
  const shotRate = useSessionState((state) => state.scene.rate);
  const [first, ...others] = content.exposures.map((exposure) => exposure.hold);
  const common = first !== undefined && others.every((hold) => hold === first) ? first : null;
  const now = exposureIndexAt(content, frame, shotRate);
  const keep = (part: Partial<Moving>) => setOnce(contentTrial(session, plane.id), { ...content, ...part });
  return (
    <div className="mt-2 flex flex-col gap-2">
      <div className="flex items-end gap-2">
        <Select
          label={say.cycle}
          className="w-36"
          options={CYCLES}
          words={CYCLE_WORDS}
          value={content.cycle}
          onChange={(cycle) => keep({ cycle })}
        />
        <NumberField
          className="w-24"
          label={say.startsAtFrame}
          unit="f"
          min={-100000}
          max={200000}
          value={content.startFrame}
          onCommit={(v) => keep({ startFrame: Math.round(v) })}
        />
        <OwnRate content={content} onRate={(rate) => keep({ rate })} />
        <NumberField
          className="w-24"
          label={say.holdEachFor}
          unit="f"
          min={1}
          max={1000}
          value={common}
          onCommit={(v) => {
            const frames = Math.max(1, Math.round(v));
            keep({ exposures: content.exposures.map((e) => ({ ...e, hold: frames })) });
          }}
        />
        <Onion plane={plane} />
      </div>
      <ExposureStrip
        key={plane.id}
        content={content}
        now={now}
        onChange={keep}
        begin={contentTrial(session, plane.id)}
      />
    </div>
  );
}

function OwnRate({ content, onRate }: { content: Moving; onRate: (rate: Moving['rate']) => void }) {
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState<string>();
  const finish = () => {
    if (draft === null) return;
    const read = draft.trim() === '' ? null : parseRational(draft);
    if (read && !read.ok) {
      setFault(say.typeARateSuchAs);
      return;
    }
    setDraft(null);
    setFault(undefined);
    onRate(read ? read.value : null);
  };
  return (
    <div className="w-28">
      <TextField
        label={say.ownRate}
        placeholder={say.asTheShot}
        fault={fault}
        style={{ height: 26 }}
        value={draft ?? (content.rate ? rationalText(content.rate) : '')}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={finish}
        onKeyDown={(event) => event.key === 'Enter' && finish()}
      />
    </div>
  );
}

/** Earlier and later exposures laid over the picture. */
function Onion({ plane }: { plane: Plane }) {
  const session = useSession();
  const on = useSessionState((state) => state.onion === plane.id);
  return (
    <Button on={on} title={say.showsThePreviousAndThe} onClick={() => session.setOnion(on ? null : plane.id)}>
      {say.onion}
    </Button>
  );
}
