import type { LayerMatch } from '@keen-ridge/core/edits/art';
import type { PlaneId } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { useMemo } from 'react';
import { ArtThumbnail, PlaneThumbnail } from '../planes/plane-thumbnail.tsx';
import { useSession } from '../session/use-session.ts';
import { bringInWords as say } from '../words/bring-in.ts';
import type { LookedAt } from './import-store.ts';
import { type LandingLayers, versionMatches } from './landing.ts';

const KIND_WORDS: Readonly<Record<LayerMatch['kind'], string>> = {
  'same-name': say.sameName,
  'same-likeness': say.renamed,
  added: say.added,
  lost: say.gone,
};

/** What the next version changes: which layer replaces which plane, what is new, and what is gone. */
export function VersionList({ looked, landing }: { looked: LookedAt; landing: LandingLayers }) {
  const session = useSession();
  const matches = useMemo(() => versionMatches(session, looked, landing), [session, looked, landing]);
  const planeNow = (id: PlaneId) => planeOf(session.state.scene, id);
  const count = (kind: LayerMatch['kind']) => matches.filter((match) => match.kind === kind).length;
  return (
    <>
      <p className="border-b border-rule px-2 py-1.5 text-ink-2">
        {say.versionCounts(count('same-name'), count('same-likeness'), count('added'), count('lost'))}
      </p>
      <ul aria-label={say.changes}>
        {matches.map((match) => {
          const plane = match.kind === 'added' ? undefined : planeNow(match.planeId);
          const layer = match.kind === 'lost' ? undefined : landing.layers[match.layerIndex];
          return (
            <li
              key={match.kind === 'added' ? `layer ${match.layerIndex}` : match.planeId}
              className="grid grid-cols-[48px_1fr_16px_48px_1fr_72px] items-center gap-2 border-b border-rule-light px-2 py-1"
            >
              {plane ? <PlaneThumbnail content={plane.content} className="h-[27px] w-12" /> : <span />}
              <span className="truncate">{plane?.name ?? ''}</span>
              <span aria-hidden="true">{plane && layer ? '→' : ''}</span>
              {layer ? <ArtThumbnail artId={layer.art.id} className="h-[27px] w-12" /> : <span />}
              <span className="truncate">{layer?.name ?? ''}</span>
              <span className={match.kind === 'lost' ? 'text-fault' : 'text-ink-2'}>
                {KIND_WORDS[match.kind]}
              </span>
            </li>
          );
        })}
      </ul>
    </>
  );
}
