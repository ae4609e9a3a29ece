import type { GuideFormat } from '@keen-ridge/core/contract';
import { SIDES } from '@keen-ridge/core/image';
import { guideCanvas, type PaintNeed, paintListCsv } from '@keen-ridge/core/survey';
import { needWords, PAINT_LIST_WORDS } from '@keen-ridge/core/words';
import { useState } from 'react';
import { guidesUrl } from '../api/survey.ts';
import { useNames } from '../edits/names.ts';
import { useSurvey } from '../session/survey/use-survey.ts';
import { useSession } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { surveyWords as say } from '../words/survey.ts';
import { saveCsv } from './findings-csv.ts';
import { GUIDE_WORDS, useGuideKind } from './guide-kind.tsx';
import { MadeFileButton } from './made-file-button.tsx';

/** What every plane needs for this move, against what there is, and what to paint it on. */
export function PaintListDialog() {
  const [open, setOpen] = useState(false);
  const { answer, isOld } = useSurvey();
  return (
    <>
      <Button title={say.whatEveryPlaneNeedsFor} disabled={!answer || isOld} onClick={() => setOpen(true)}>
        {say.paintList}
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title={say.paintList2}
        description={say.whatThisMoveNeedsOf}
        width={980}
        tall
      >
        {answer && <List needs={answer.needs} />}
      </Dialog>
    </>
  );
}

function List({ needs }: { needs: readonly PaintNeed[] }) {
  const { shot } = useSession();
  const names = useNames();
  const [kind, choice] = useGuideKind();
  const none = needs.length === 0;
  return (
    <>
      {none ? (
        <p className="text-ink-2">{say.noPlaneIsSeenIn}</p>
      ) : (
        <div className="max-h-[52vh] overflow-auto border border-rule">
          <table className="w-full border-collapse">
            <thead className="sticky top-0 bg-bar text-left">
              <tr className="*:px-2 *:py-1 *:font-semibold">
                <th>{PAINT_LIST_WORDS.plane}</th>
                <th>{PAINT_LIST_WORDS.is}</th>
                <th>{PAINT_LIST_WORDS.paint}</th>
                {SIDES.map((side) => (
                  <th key={side} className="text-right">
                    {PAINT_LIST_WORDS.sides[side]}
                  </th>
                ))}
                <th />
              </tr>
            </thead>
            <tbody>
              {needs.map((need) => (
                <Row key={need.planeId} need={need} name={names.plane(need.planeId)} kind={kind} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-2">
        {choice}
        <MadeFileButton disabled={none} href={guidesUrl(shot.id, kind)} words={say.allGuidesAsAZip} />
        <span className="flex-1" />
        <Button
          disabled={none}
          onClick={() => saveCsv(shot.name, 'paint-list', paintListCsv(needs, names.plane))}
        >
          {say.saveAsCsv}
        </Button>
        <MadeFileButton
          disabled={none}
          href={`/api/shots/${shot.id}/survey/paint-list.pdf`}
          words={say.saveAsPdf}
        />
      </div>
    </>
  );
}

function Row({ need, name, kind }: { need: PaintNeed; name: string; kind: GuideFormat }) {
  const { shot } = useSession();
  const words = needWords(need, guideCanvas(need));
  return (
    <tr className="border-t border-rule-light *:px-2 *:py-1">
      <th scope="row" className="max-w-52 truncate text-left font-normal" title={name}>
        {name}
      </th>
      <td className="num text-ink-2">{words.is}</td>
      <td className="num">{words.paint}</td>
      {SIDES.map((side) => (
        <td
          key={side}
          className={`num text-right ${need.extendPx[side] > 0 ? 'font-semibold text-fault' : 'text-ink-2'}`}
        >
          {words.sides[side]}
        </td>
      ))}
      <td className="text-right">
        <MadeFileButton
          href={guidesUrl(shot.id, kind, [need.planeId])}
          words={say.guideKind(GUIDE_WORDS[kind])}
          label={say.guideOfName(name)}
        />
      </td>
    </tr>
  );
}
