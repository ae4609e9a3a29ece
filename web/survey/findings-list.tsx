import { type Finding, isLeftSo, weightOf } from '@keen-ridge/core/survey';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { create } from 'zustand';
import { useNames } from '../edits/names.ts';
import {
  FINDINGS_BY,
  type FindingsBy,
  setPreferences,
  usePreferences,
} from '../session/choices/preferences.ts';
import { useSurvey } from '../session/survey/use-survey.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Checkbox } from '../ui/fields/checkbox.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { surveyWords as say } from '../words/survey.ts';
import { FindingCard } from './finding-card.tsx';
import { findingsCsv, saveCsv } from './findings-csv.ts';
import { LimitsPopover } from './limits-popover.tsx';
import { useLookedAt } from './looked-at.ts';
import { MadeFileButton } from './made-file-button.tsx';
import { PaintListDialog } from './paint-list-dialog.tsx';

const CARD_HEIGHT = 92;
const CARDS_READY = 8;

/** Everything that was found, what is open first shown alone. */
export function FindingsList({ onLook }: { onLook: (finding: Finding) => void }) {
  const { shot } = useSession();
  const lengthFrames = useSessionState((state) => state.scene.lengthFrames);
  const leftSo = useSessionState((state) => state.scene.survey?.leftSo);
  const { answer, open, isOld, progress, fault, tookMs } = useSurvey();
  const names = useNames();
  const [all, setAll] = useState(false);
  const lookedAt = useLookedAt((state) => state.id);
  const findings = answer?.findings ?? [];
  const shown = useListed(all ? findings : open);
  const scroll = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => CARD_HEIGHT,
    getItemKey: (index) => shown[index]!.id,
    overscan: CARDS_READY,
  });
  return (
    <section
      aria-label={say.whatWouldGoWrong}
      className="flex w-[440px] shrink-0 flex-col border-r border-rule"
    >
      <div className="flex h-[38px] shrink-0 items-center gap-1.5 border-b border-rule bg-bar px-3">
        <h1 className="flex-1 font-semibold">{say.whatWouldGoWrong}</h1>
        <span className="num text-ink-2" role="status">
          {progress
            ? say.doneOfTotalF(progress.done, progress.total)
            : answer && `${lengthFrames} f · ${(tookMs / 1000).toFixed(1)} s`}
        </span>
        <Button on={all} onClick={() => setAll(true)}>
          {say.allLength(findings.length)}
        </Button>
        <Button on={!all} onClick={() => setAll(false)}>
          {say.openLength(open.length)}
        </Button>
      </div>
      <Sorting />
      {fault && (
        <p role="alert" className="border-b border-rule px-3 py-2 text-fault">
          {say.theShotCouldNotBe(fault)}
        </p>
      )}
      <div
        ref={scroll}
        data-old={isOld}
        className={`min-h-0 flex-1 overflow-auto ${isOld ? 'opacity-60' : ''}`}
      >
        {!answer && !fault && <p className="p-4 text-ink-2">{say.lookingAtEveryFrame}</p>}
        {answer && shown.length === 0 && <Nothing left={findings.length} />}
        <ul aria-label={say.findings} className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, key, start }) => {
            const finding = shown[index]!;
            return (
              <li
                key={key}
                ref={virtual.measureElement}
                data-index={index}
                aria-posinset={index + 1}
                aria-setsize={shown.length}
                className="absolute inset-x-0"
                style={{ top: start }}
              >
                <FindingCard
                  finding={finding}
                  chosen={finding.id === lookedAt}
                  left={isLeftSo(finding, leftSo)}
                  note={leftSo?.[finding.id]?.note ?? ''}
                  isOld={isOld}
                  onLook={() => onLook(finding)}
                />
              </li>
            );
          })}
        </ul>
      </div>
      <div className="flex h-10 shrink-0 items-center gap-2 border-t border-rule bg-bar px-3">
        <LimitsPopover />
        <span className="flex-1" />
        <PaintListDialog />
        <Button
          aria-label={say.findingsAsCsv}
          disabled={!answer || isOld}
          onClick={() => saveCsv(shot.name, 'survey', findingsCsv(findings, leftSo, names))}
        >
          {say.csv}
        </Button>
        <MadeFileButton
          disabled={!answer || isOld}
          href={`/api/shots/${shot.id}/survey/report.pdf`}
          words={say.pdf}
          label={say.reportAsPdfWithA}
        />
      </div>
    </section>
  );
}

const BY_WORDS: Readonly<Record<FindingsBy, string>> = {
  kind: say.byKind,
  plane: say.byPlane,
  worst: say.worstFirst,
};

/** How the findings are listed. */
function Sorting() {
  const by = usePreferences((state) => state.findingsBy);
  const chosenOnly = useChosenOnly((state) => state.on);
  return (
    <div className="flex h-[38px] shrink-0 items-center gap-3 border-b border-rule-light px-3">
      <Choice
        label={say.howFindingsAreListed}
        hideLabel
        options={FINDINGS_BY}
        words={BY_WORDS}
        value={by}
        onChange={(findingsBy) => setPreferences({ findingsBy })}
      />
      <Checkbox checked={chosenOnly} onChange={(on) => useChosenOnly.setState({ on })}>
        {say.ofChosenPlanes}
      </Checkbox>
    </div>
  );
}

/** Only what is about the chosen planes is listed. */
const useChosenOnly = create<{ readonly on: boolean }>(() => ({ on: false }));

/** Findings as the artist wants them listed. */
function useListed(findings: readonly Finding[]): readonly Finding[] {
  const by = usePreferences((state) => state.findingsBy);
  const chosenOnly = useChosenOnly((state) => state.on);
  const selection = useSessionState((state) => state.selection);
  const { order, frame } = useSessionState((state) => state.scene);
  return useMemo(() => {
    const about = (finding: Finding) => ('planeId' in finding ? finding.planeId : null);
    const listed = chosenOnly
      ? findings.filter((one) => selection.some((id) => id === about(one)))
      : [...findings];
    const place = (finding: Finding) => order.indexOf(about(finding) ?? order[0]!);
    if (by === 'plane') listed.sort((p, q) => place(p) - place(q));
    if (by === 'worst') listed.sort((p, q) => weightOf(q, frame) - weightOf(p, frame));
    return listed;
  }, [findings, by, chosenOnly, selection, order, frame]);
}

/** A sight to enjoy. */
function Nothing({ left }: { left: number }) {
  return (
    <div className="px-6 py-14 text-center">
      <p className="text-[16px] font-semibold">{say.nothingWouldGoWrong}</p>
      <p className="mt-1 text-ink-2">
        {left === 0 ? say.everyFrameIsCoveredNothing : say.whatIsLeftIsAdvice}
      </p>
    </div>
  );
}
