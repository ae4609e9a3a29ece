import { STILL_KINDS, type StillKind } from '@keen-ridge/core/export';
import { useState } from 'react';
import { useSession, useSessionState } from '../session/use-session.ts';
import { NumberField } from '../ui/fields/number-field.tsx';
import { LinkButton } from '../ui/link-button.tsx';
import { handoffWords as say } from '../words/handoff.ts';
import { DataExports } from './data-exports.tsx';
import { QuickFilmControls } from './quick-film-controls.tsx';

const STILL_WORDS: Readonly<Record<StillKind, string>> = {
  png: say.png2,
  webp: say.webp,
  openraster: say.openrasterALayerAPlane,
};

/** What needs no queue: a film made in this page, a still of one frame, what other desks need, the shot itself. */
export function OtherWays() {
  const { shot } = useSession();
  return (
    <div className="mt-7 grid gap-5 border-t border-rule pt-4">
      <QuickFilmControls />
      <Still />
      <DataExports />
      <p className="text-ink-2">
        <a className="text-select underline" href={`/api/shots/${shot.id}/package`} download>
          {say.downloadTheShotAsAn}
        </a>
        {say.itsSetUpAsJson}
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
    <section aria-label={say.still}>
      <h2 className="text-[14px] font-semibold">{say.aStill}</h2>
      <div className="mt-1.5 flex items-end gap-3">
        <NumberField
          className="w-24"
          label={say.frame}
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
