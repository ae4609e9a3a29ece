import type { Finding } from '@keen-ridge/core/survey';
import { useEffect, useMemo } from 'react';
import type { Command } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { useChoosing } from '../picture/choosing.tsx';
import { Picture } from '../picture/picture.tsx';
import { useSurvey } from '../session/survey/use-survey.ts';
import { useSession } from '../session/use-session.ts';
import { Transport } from '../timeline/transport.tsx';
import { FaultOverlay } from './fault-overlay.tsx';
import { FindingsList } from './findings-list.tsx';
import { lookAt, useLookedAt } from './looked-at.ts';
import { Ribbons } from './ribbons.tsx';

/** What would go wrong in the shot, where, and what can be done about it. */
export function SurveyPage() {
  const session = useSession();
  const choosing = useChoosing();
  const { answer } = useSurvey();
  const lookedAt = useLookedAt((state) => state.id);
  const finding = answer?.findings.find(({ id }) => id === lookedAt) ?? null;
  useSurveyCommands(answer?.findings ?? NONE);
  useEffect(() => () => useLookedAt.setState({ id: null }), []);
  return (
    <main className="flex min-h-0 flex-1">
      <FindingsList onLook={(one) => lookAt(session, one)} />
      <section aria-label="Picture" className="flex min-h-0 min-w-0 flex-1 flex-col">
        <Picture
          margin={0.09}
          label="Picture through the camera, with the fault that is looked at."
          cursor="default"
          grasp={choosing.press}
          over={(room) => (
            <>
              {finding && answer && <FaultOverlay room={room} finding={finding} bare={answer.bare} />}
              {choosing.draw(room)}
            </>
          )}
        />
        <Transport />
        <Ribbons finding={finding} />
      </section>
    </main>
  );
}

const NONE: readonly Finding[] = [];

/** From one finding to the next by keys. */
function useSurveyCommands(findings: readonly Finding[]): void {
  const session = useSession();
  useCommands(
    'step',
    useMemo((): readonly Command[] => {
      const go = (by: 1 | -1) => () => {
        const at = findings.findIndex(({ id }) => id === useLookedAt.getState().id);
        const next = at < 0 ? (by === 1 ? 0 : findings.length - 1) : at + by;
        const finding = findings[Math.min(findings.length - 1, Math.max(0, next))];
        if (finding) {
          lookAt(session, finding);
          document.getElementById(`finding-${finding.id}`)?.focus();
        }
      };
      const shared = { group: 'Survey', when: () => findings.length > 0 } as const;
      return [
        { ...shared, id: 'survey.next', words: 'Next finding', keys: ['ArrowDown'], run: go(1) },
        { ...shared, id: 'survey.previous', words: 'Previous finding', keys: ['ArrowUp'], run: go(-1) },
      ];
    }, [findings, session]),
  );
}
