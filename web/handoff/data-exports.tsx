import {
  EXPORTS_OF,
  type ExportKind,
  SHEET_PAPERS,
  type SheetPaper,
} from '@keen-ridge/core/contract/exports';
import { pinsOf, planesOf } from '@keen-ridge/core/scene/records';
import { useState } from 'react';
import { fetchFile, saveFile } from '../api/download.ts';
import { whileTold } from '../edits/while-told.ts';
import { type HandoffSettings, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { Select } from '../ui/fields/select.tsx';
import { counted } from '../ui/format.ts';
import { LinkButton } from '../ui/link-button.tsx';
import { handoffWords as say } from '../words/handoff.ts';

type Of = (typeof EXPORTS_OF)[number];

/** What other desks need to know of the shot: its numbers, the stage in 3D, the camera sheet. */
export function DataExports() {
  const { shot } = useSession();
  const scene = useSessionState((state) => state.scene);
  const selection = useSessionState((state) => state.selection);
  const { artPx, paper } = usePreferences((state) => state.handoff);
  const [of, setOf] = useState<Of>('all');
  const [stillsOf, setStillsOf] = useState<(typeof STILLS_OF)[number]>('all');
  const keep = (part: Partial<HandoffSettings>) =>
    setPreferences({ handoff: { ...usePreferences.getState().handoff, ...part } });
  const href = (as: ExportKind, more: Readonly<Record<string, string>> = {}) =>
    `/api/shots/${shot.id}/export?${new URLSearchParams({ as, ...more })}`;
  const planes: Record<string, string> = of === 'planes' ? { of, planes: selection.join(',') } : { of };
  const pins = planesOf(scene).reduce((sum, plane) => sum + pinsOf(plane).length, 0);
  const chosen = planesOf(scene).filter(({ id }) => selection.includes(id));
  return (
    <section aria-label={say.forTheNextDesk} className="grid gap-4">
      <h2 className="text-[14px] font-semibold">{say.forTheNextDesk}</h2>
      <div>
        <p className="text-ink-2">
          {say.stageDataMeans} {pins > 0 ? say.pinsAreThere(counted(pins, 'pin')) : say.noPinsThere}
        </p>
        <div className="mt-1.5 flex items-end gap-3">
          <Select
            label={say.stageDataOf}
            className="w-44"
            options={EXPORTS_OF}
            words={{
              all: say.wholeShot,
              camera: say.cameraAlone,
              datum: say.onTheDatum,
              planes: say.chosenPlanes(chosen.length),
            }}
            value={of}
            onChange={setOf}
          />
          {of === 'planes' && chosen.length === 0 ? (
            <p className="text-ink-2">{say.choosePlanesOnTheStage}</p>
          ) : (
            <>
              <LinkButton href={href('csv', planes)} download>
                {say.stageCsv}
              </LinkButton>
              <LinkButton href={href('json', planes)} download>
                {say.stageJson}
              </LinkButton>
            </>
          )}
        </div>
      </div>
      <div>
        <p className="text-ink-2">{say.stillsMean}</p>
        <div className="mt-1.5 flex items-end gap-3">
          <Select
            label={say.planesAlone}
            className="w-44"
            options={STILLS_OF}
            words={{ all: say.allPlanes, datum: say.onTheDatum, planes: say.chosenPlanes(chosen.length) }}
            value={stillsOf}
            onChange={setStillsOf}
          />
          <MadeFile
            href={href(
              'stills',
              stillsOf === 'planes' ? { of: stillsOf, planes: selection.join(',') } : { of: stillsOf },
            )}
          >
            {say.stillSet}
          </MadeFile>
        </div>
      </div>
      <div>
        <p className="text-ink-2">{say.gltfMeans}</p>
        <div className="mt-1.5 flex items-end gap-3">
          <NumberField
            className="w-44"
            label={say.picturesUpTo}
            unit="px"
            min={16}
            max={8192}
            step={256}
            value={artPx}
            onCommit={(px) => keep({ artPx: Math.round(px) })}
          />
          <MadeFile href={href('glb', { art: String(artPx) })}>{say.gltf}</MadeFile>
        </div>
      </div>
      <div>
        <p className="text-ink-2">{say.sheetMeans}</p>
        <div className="mt-1.5 flex items-end gap-3">
          <Select
            label={say.paper}
            className="w-44"
            options={SHEET_PAPERS}
            words={PAPER_WORDS}
            value={paper}
            onChange={(next) => keep({ paper: next })}
          />
          <MadeFile href={href('sheet-pdf', { paper })}>{say.sheetPdf}</MadeFile>
          <MadeFile href={href('sheet-svg', { paper })}>{say.sheetSvg}</MadeFile>
        </div>
      </div>
    </section>
  );
}

/** A file that takes a while to make: that is told, and can be called off. */
function MadeFile({ href, children }: { href: string; children: string }) {
  const [making, setMaking] = useState(false);
  const make = async () => {
    setMaking(true);
    const file = await whileTold(say.makingFile(children), (signal) => fetchFile(href, signal));
    if (file) saveFile(file.name, file.blob);
    setMaking(false);
  };
  return (
    <Button disabled={making} onClick={() => void make()}>
      {children}
    </Button>
  );
}

const STILLS_OF = ['all', 'datum', 'planes'] as const;
const PAPER_WORDS: Readonly<Record<SheetPaper, string>> = { A4: 'A4', A3: 'A3', letter: say.letter };
