import type { Finding } from '@keen-ridge/core/survey';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useMemo } from 'react';
import type { Command } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { useChoosing } from '../picture/choosing.tsx';
import { Picture } from '../picture/picture.tsx';
import type { Session } from '../session/session.ts';
import { useSurvey } from '../session/survey/use-survey.ts';
import { useSession } from '../session/use-session.ts';
import { Transport } from '../timeline/transport.tsx';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { surveyWords as say } from '../words/survey.ts';
import { FaultOverlay } from './fault-overlay.tsx';
import { FindingsList } from './findings-list.tsx';
import { lookAt, SURVEY_VIEWS, type SurveyView, useLookedAt, useSurveyView } from './looked-at.ts';
import { OnTheArt, useLookedAtPlane } from './on-the-art.tsx';
import { Ribbons } from './ribbons.tsx';

/** What would go wrong in the shot, where, and what can be done about it. */
export function SurveyPage() {
  const session = useSession();
  const choosing = useChoosing();
  const { answer } = useSurvey();
  const lookedAt = useLookedAt((state) => state.id);
  const finding = answer?.findings.find(({ id }) => id === lookedAt) ?? null;
  const view = useSurveyView((state) => state.view);
  const plane = useLookedAtPlane(finding && 'planeId' in finding ? finding.planeId : null);
  useSurveyCommands(answer?.findings ?? NONE);
  useEffect(() => () => useLookedAt.setState({ id: null }), []);
  return (
    <main className="flex min-h-0 flex-1">
      <FindingsList onLook={(one) => lookAt(session, one)} />
      <section aria-label={say.picture} className="flex min-h-0 min-w-0 flex-1 flex-col">
        {view === 'art' ? (
          <OnTheArt planeId={plane} />
        ) : (
          <Picture
            margin={0.09}
            label={say.pictureThroughTheCameraWith}
            cursor="default"
            grasp={choosing.press}
            over={(room) => (
              <>
                {finding && answer && <FaultOverlay room={room} finding={finding} bare={answer.bare} />}
                {choosing.draw(room)}
              </>
            )}
          />
        )}
        <ViewBar findings={answer?.findings ?? NONE} />
        <Transport />
        <Ribbons finding={finding} />
      </section>
    </main>
  );
}

const NONE: readonly Finding[] = [];

const VIEW_WORDS: Readonly<Record<SurveyView, string>> = { camera: say.throughTheCamera, art: say.onTheArt };

/** Through what the shot is looked at, and the way from fault to fault. */
function ViewBar({ findings }: { findings: readonly Finding[] }) {
  const session = useSession();
  const view = useSurveyView((state) => state.view);
  const go = (by: 1 | -1) => () => goToFinding(session, findings, by);
  return (
    <div className="flex h-10 shrink-0 items-center gap-2 border-t border-rule bg-bar px-3">
      <Choice
        label={say.lookedAt}
        hideLabel
        options={SURVEY_VIEWS}
        words={VIEW_WORDS}
        value={view}
        onChange={(next) => useSurveyView.setState({ view: next })}
      />
      <span className="flex-1" />
      <Button
        disabled={findings.length === 0}
        aria-label={say.previousFinding}
        title={say.arrowUp}
        onClick={go(-1)}
      >
        <ChevronLeft size={14} aria-hidden="true" />
        {say.fault}
      </Button>
      <Button
        disabled={findings.length === 0}
        aria-label={say.nextFinding}
        title={say.arrowDown}
        onClick={go(1)}
      >
        {say.fault2}
        <ChevronRight size={14} aria-hidden="true" />
      </Button>
    </div>
  );
}

/** Looks at the finding before or after the one that is looked at. */
function goToFinding(session: Session, findings: readonly Finding[], by: 1 | -1): void {
  const at = findings.findIndex(({ id }) => id === useLookedAt.getState().id);
  const next = at < 0 ? (by === 1 ? 0 : findings.length - 1) : at + by;
  const finding = findings[Math.min(findings.length - 1, Math.max(0, next))];
  if (!finding) return;
  lookAt(session, finding);
  document.getElementById(`finding-${finding.id}`)?.focus();
}

/** From one finding to the next by keys. */
function useSurveyCommands(findings: readonly Finding[]): void {
  const session = useSession();
  useCommands(
    'step',
    useMemo((): readonly Command[] => {
      const go = (by: 1 | -1) => () => goToFinding(session, findings, by);
      const shared = { group: 'Survey', when: () => findings.length > 0 } as const;
      return [
        { ...shared, id: 'survey.next', words: say.nextFinding, keys: ['ArrowDown'], run: go(1) },
        { ...shared, id: 'survey.previous', words: say.previousFinding, keys: ['ArrowUp'], run: go(-1) },
        ...SURVEY_VIEWS.map((view) => ({
          id: `survey.${view}`,
          group: 'Survey',
          words: VIEW_WORDS[view],
          run: () => useSurveyView.setState({ view }),
        })),
      ];
    }, [findings, session]),
  );
}
