import { applyNewVersion, planeFromLayer } from '@keen-ridge/core/edits/art';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { type PlaneId, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { keysOf, planeOf } from '@keen-ridge/core/scene/records';
import type { Finding } from '@keen-ridge/core/survey';
import { findingFrames, findingSentence, findingTitle } from '@keen-ridge/core/words';
import { useMemo } from 'react';
import { useTried } from '../session/survey/use-survey.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { formatNumber } from '../ui/format.ts';
import { bringInWords as say } from '../words/bring-in.ts';
import { type LookedAt, useImport } from './import-store.ts';
import { type LandingLayers, sceneFor, versionMatches } from './landing.ts';

interface SizeNotesProps {
  looked: LookedAt;
  landing: LandingLayers;
  scale: number;
}

/** What would go wrong in the shot if this painting landed now, as the survey has it: whether it is large enough. */
export function SizeNotes({ looked, landing, scale }: SizeNotesProps) {
  const scene = useSessionState((state) => state.scene);
  const landed = useLanded(looked, landing);
  const findings = useTried(landed.scene);
  const moves = Object.values(scene.camera).some((channel) => keysOf(channel).length > 1);
  if (findings === null) return null;
  if (findings === undefined) return <p className="text-ink-2">{say.lookingWhetherItIsLarge}</p>;
  const wrong = findings.filter((finding) => isAboutSize(finding, landed.ids));
  const { widthPx, heightPx } = looked.painting;
  const names = { plane: (id: string) => planeOf(landed.scene, id)?.name ?? '', channel: () => '' };
  return (
    <>
      {wrong.map((finding) => (
        <p key={finding.id} className={finding.grade === 'wrong' ? 'text-fault' : 'text-ink-2'}>
          {findingTitle(finding, names)}, {findingFrames(finding)}. {findingSentence(finding)}
          {finding.code === 'edge' && say.paintPaintArtPxPx(formatNumber(finding.paintArtPx))}
        </p>
      ))}
      {wrong.length === 0 && (
        <p className="text-ink-2">{moves ? say.largeEnoughForTheMove : say.largeEnoughForTheFrame}</p>
      )}
      {!moves && (
        <p className="text-ink-2">
          {say.framesWideAndHigh(
            formatNumber((widthPx * scale) / scene.frame.widthPx, 2),
            formatNumber((heightPx * scale) / scene.frame.heightPx, 2),
          )}
        </p>
      )}
    </>
  );
}

const isAboutSize = (finding: Finding, ids: ReadonlySet<PlaneId>): boolean =>
  finding.code === 'hole' ||
  ((finding.code === 'edge' || finding.code === 'soft') && ids.has(finding.planeId));

/** The shot with what lands, and the planes that it makes or changes. */
function useLanded(looked: LookedAt, landing: LandingLayers): { scene: Scene; ids: ReadonlySet<PlaneId> } {
  const session = useSession();
  const kept = useSessionState((state) => state.scene);
  const place = useImport((state) => state.place);
  return useMemo(() => {
    const idOf = (i: number) => planeIdSchema.parse(`landing-${i}`);
    const { layers } = landing;
    if (!looked.asVersion) {
      const planes = layers.map((layer, i) => planeFromLayer(idOf(i), layer, kept.frame, place));
      return { scene: addPlanes(kept, planes), ids: new Set(planes.map(({ id }) => id)) };
    }
    const matches = versionMatches(session, looked, landing);
    const ids = matches.flatMap((match) =>
      match.kind === 'added' ? [idOf(match.layerIndex)] : match.kind === 'lost' ? [] : [match.planeId],
    );
    const version = { layers, matches, idOf, removeLost: false };
    return { scene: applyNewVersion(sceneFor(kept, looked), version), ids: new Set(ids) };
  }, [session, kept, looked, landing, place]);
}
