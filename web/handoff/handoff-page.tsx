import type { Handoff, HandoffKind } from '@keen-ridge/core/contract';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { rationalText } from '@keen-ridge/core/units';
import { RadioGroup } from 'radix-ui';
import { useState } from 'react';
import { askHandoff, useHandoffChange, useHandoffs } from '../api/queries.ts';
import { useSession, useSessionState } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { formatSeconds } from '../ui/format.ts';
import { NumberField } from '../ui/number-field.tsx';
import { HandoffRow } from './handoff-row.tsx';

const KINDS: Readonly<Record<HandoffKind, { word: string; means: string }>> = {
  'png-zip': { word: 'PNG frames', means: 'One numbered PNG a frame, 8 bit with alpha, in a zip' },
  webm: { word: 'WebM film', means: 'VP9, BT.709, at the shot’s own rate' },
};

/** What leaves: frames or film of the shot as it stands. */
export function HandoffPage() {
  const { shot } = useSession();
  const list = useHandoffs(shot.id);
  return (
    <main className="min-h-0 flex-1 overflow-auto">
      <div className="mx-auto grid max-w-[1080px] grid-cols-[340px_1fr] gap-10 px-6 py-6">
        <HandoffForm filmReady={list.data?.filmReady ?? true} />
        <section aria-label="Hand-offs">
          <h2 className="text-[14px] font-semibold">Handed off</h2>
          {list.isError && (
            <p role="alert" className="mt-2 text-fault">
              The list cannot be read: {list.error.message}
            </p>
          )}
          {list.data?.handoffs.length === 0 && (
            <p className="mt-2 text-ink-2">Nothing yet. What you hand off stays here, ready to download.</p>
          )}
          <ul className="mt-3 border-t border-rule empty:hidden">
            {list.data?.handoffs.map((handoff: Handoff) => (
              <HandoffRow
                key={handoff.id}
                handoff={handoff}
                shotId={shot.id}
                kindWord={KINDS[handoff.request.kind].word}
              />
            ))}
          </ul>
        </section>
      </div>
    </main>
  );
}

function HandoffForm({ filmReady }: { filmReady: boolean }) {
  const { shot } = useSession();
  const scene = useSessionState((state) => state.scene);
  const saveState = useSessionState((state) => state.saveState);
  const [kind, setKind] = useState<HandoffKind>('png-zip');
  const [range, setRange] = useState<{ firstFrame: number; lastFrame: number } | null>(null);
  const start = useHandoffChange(shot.id, askHandoff(shot.id));
  const { firstFrame, lastFrame } = range ?? { firstFrame: 1, lastFrame: scene.lengthFrames };
  const last = Math.min(lastFrame, scene.lengthFrames);
  const first = Math.min(firstFrame, last);
  const frames = last - first + 1;
  const blocked =
    scene.planes.length === 0
      ? 'There is nothing on the stage to hand off.'
      : saveState !== 'saved'
        ? 'Waiting until everything is saved …'
        : null;
  return (
    <form
      aria-label="New hand-off"
      onSubmit={(event) => {
        event.preventDefault();
        start.mutate({ kind, firstFrame: first, lastFrame: last });
      }}
    >
      <h1 className="text-[14px] font-semibold">Hand-off</h1>
      <RadioGroup.Root
        value={kind}
        aria-label="What to hand off"
        className="mt-3 flex flex-col gap-2"
        onValueChange={(value) => setKind(value === 'webm' ? 'webm' : 'png-zip')}
      >
        {(Object.keys(KINDS) as HandoffKind[]).map((value) => (
          <RadioGroup.Item
            key={value}
            value={value}
            className="cursor-pointer rounded-[3px] border border-rule bg-raised px-3 py-2 text-left data-[state=checked]:border-select data-[state=checked]:bg-select-wash"
          >
            <span className="block font-semibold">{KINDS[value].word}</span>
            <span className="text-[12px] text-ink-2">{KINDS[value].means}</span>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
      <div className="mt-4 grid grid-cols-2 gap-3">
        <NumberField
          label="First frame"
          unit="f"
          value={first}
          min={1}
          max={scene.lengthFrames}
          onCommit={(v) => setRange({ firstFrame: Math.round(v), lastFrame: Math.max(last, Math.round(v)) })}
        />
        <NumberField
          label="Last frame"
          unit="f"
          value={last}
          min={1}
          max={scene.lengthFrames}
          onCommit={(v) => setRange({ firstFrame: Math.min(first, Math.round(v)), lastFrame: Math.round(v) })}
        />
      </div>
      <p className="num mt-3 leading-relaxed text-ink-2">
        {frames} f · {formatSeconds(secondsOfFrames(frames, scene.rate))} at {rationalText(scene.rate)}
        <br />
        {scene.frame.widthPx} × {scene.frame.heightPx} px
      </p>
      {kind === 'webm' && !filmReady && (
        <p role="alert" className="mt-3 text-fault">
          Films need ffmpeg on this machine: sudo apt-get install ffmpeg, then reload.
        </p>
      )}
      {start.isError && (
        <p role="alert" className="mt-3 text-fault">
          {start.error.message}
        </p>
      )}
      {blocked && <p className="mt-3 text-ink-2">{blocked}</p>}

      <Button
        type="submit"
        tone="strong"
        className="mt-4 w-full"
        disabled={blocked !== null || start.isPending || (kind === 'webm' && !filmReady)}
      >
        Hand off {frames} {frames === 1 ? 'frame' : 'frames'}
      </Button>
      <p className="mt-6 border-t border-rule pt-4 text-[12px] text-ink-2">
        <a className="text-select underline" href={`/api/shots/${shot.id}/package`} download>
          Download the shot as an open package
        </a>
        : its set-up as JSON and its art as PNGs, for the command line or for safe keeping.
      </p>
    </form>
  );
}
