import { STILL_KINDS, type StillKind } from '@keen-ridge/core/export';
import { useState } from 'react';
import { useSession, useSessionState } from '../session/use-session.ts';
import { NumberField } from '../ui/fields/number-field.tsx';
import { LinkButton } from '../ui/link-button.tsx';
import { QuickFilmControls } from './quick-film-controls.tsx';

const STILL_WORDS: Readonly<Record<StillKind, string>> = {
  png: 'PNG',
  webp: 'WebP',
  openraster: 'OpenRaster, a layer a plane',
};

/** What needs no queue: a film made in this page, a still of one frame, the shot itself. */
export function OtherWays() {
  const { shot } = useSession();
  return (
    <div className="mt-7 grid gap-5 border-t border-rule pt-4">
      <QuickFilmControls />
      <Still />
      <p className="text-ink-2">
        <a className="text-select underline" href={`/api/shots/${shot.id}/package`} download>
          Download the shot as an open package
        </a>
        : its set-up as JSON and its art as PNGs, for the command line or for safe keeping.
      </p>
    </div>
  );
}

function Still() {
  const { shot } = useSession();
  const length = useSessionState((state) => state.scene.lengthFrames);
  const now = useSessionState((state) => state.frame);
  const [chosen, setChosen] = useState<number | null>(null);
  const frame = Math.min(length, chosen ?? now);
  return (
    <section aria-label="Still">
      <h2 className="text-[14px] font-semibold">A still</h2>
      <div className="mt-1.5 flex items-end gap-3">
        <NumberField
          className="w-24"
          label="Frame"
          unit="f"
          min={1}
          max={length}
          value={frame}
          onCommit={(v) => setChosen(Math.round(v))}
        />
        {STILL_KINDS.map((format) => (
          <LinkButton
            key={format}
            href={`/api/shots/${shot.id}/still?frame=${frame}&format=${format}`}
            download
          >
            {STILL_WORDS[format]}
          </LinkButton>
        ))}
      </div>
    </section>
  );
}
