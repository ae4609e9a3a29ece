import { leaveSo, openAgain } from '@keen-ridge/core/edits/shot';
import type { Cure, Finding } from '@keen-ridge/core/survey';
import { cureWords, findingFrames, findingSentence, findingTitle, paintWords } from '@keen-ridge/core/words';
import { useEffect, useRef, useState } from 'react';
import { guidesUrl } from '../api/survey.ts';
import { useNames } from '../edits/names.ts';
import { usePreferences } from '../session/choices/preferences.ts';
import type { Gesture } from '../session/gesture.ts';
import { useCures } from '../session/survey/use-survey.ts';
import { useSession } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { classes } from '../ui/class-names.ts';
import { surveyWords as say } from '../words/survey.ts';
import { FillBareButton } from './fill-bare-button.tsx';
import { useSurveyView } from './looked-at.ts';
import { MadeFileButton } from './made-file-button.tsx';

interface FindingCardProps {
  finding: Finding;
  chosen: boolean;
  left: boolean;
  note: string;
  /** The shot has changed since: nothing may be cured by numbers of before. */
  isOld: boolean;
  onLook: () => void;
}

/** One finding: what, when, how bad, and once it is looked at its cures. */
export function FindingCard({ finding, chosen, left, note, isOld, onLook }: FindingCardProps) {
  const names = useNames();
  const pale = left || finding.grade === 'advice';
  return (
    <article
      className={classes('border-b border-rule-light px-3 py-2', chosen ? 'bg-select-wash' : 'bg-raised')}
      data-testid={`finding-${finding.code}`}
    >
      <button
        type="button"
        id={`finding-${finding.id}`}
        aria-pressed={chosen}
        data-row=""
        className="block w-full cursor-pointer text-left"
        onClick={onLook}
      >
        <span className={classes('block', pale ? 'text-ink-2' : 'font-semibold')}>
          <Mark code={finding.code} grade={finding.grade} /> {findingTitle(finding, names)}{' '}
          <span className="num">{findingFrames(finding)}</span>
        </span>
        <span className={classes('mt-0.5 block', pale && 'text-ink-2')}>
          {findingSentence(finding)}
          {left && say.leftSoValue(note ? `: “${note}”` : '')}
        </span>
      </button>
      {chosen && (
        <>
          <Cures finding={finding} disabled={isOld} />
          <Painting finding={finding} disabled={isOld} />
          <LeaveSo finding={finding} left={left} disabled={isOld} />
        </>
      )}
    </article>
  );
}

/** Shape before colour: hatch where paint is missing, rings where it is uncovered, a blur, a ramp for what moves. */
const HATCH = 'bg-[repeating-linear-gradient(45deg,currentColor_0_2px,transparent_2px_5px)]';
const RINGS = 'bg-[repeating-radial-gradient(circle,currentColor_0_1px,transparent_1px_3px)]';
const BLUR = 'bg-[radial-gradient(circle,currentColor_10%,transparent_65%)]';
const RAMP = 'bg-[linear-gradient(90deg,transparent,currentColor)]';
const MARKS: Readonly<Record<Finding['code'], string>> = {
  edge: HATCH,
  hole: HATCH,
  seam: HATCH,
  reveal: RINGS,
  pass: RINGS,
  unseen: RINGS,
  soft: BLUR,
  flat: BLUR,
  pace: RAMP,
  slip: RAMP,
  jump: RAMP,
  loop: RAMP,
};

function Mark({ code, grade }: Pick<Finding, 'code' | 'grade'>) {
  return (
    <span
      aria-hidden="true"
      className={classes(
        'mr-1 inline-block h-3.5 w-3.5 translate-y-0.5 border border-current',
        grade === 'advice' ? 'text-ink-3' : 'text-fault',
        MARKS[code],
      )}
    />
  );
}

/** Cures are tried in the picture while they are pointed at, and taken by a click as one edit. */
function Cures({ finding, disabled }: { finding: Finding; disabled: boolean }) {
  const session = useSession();
  const names = useNames();
  const found = useCures(finding.id);
  const gesture = useRef<Gesture | null>(null);
  const drop = () => {
    gesture.current?.drop();
    gesture.current = null;
  };
  useEffect(
    () => () => {
      gesture.current?.drop();
      gesture.current = null;
    },
    [],
  );
  const subject = findingTitle(finding, names);
  const tryIt = (cure: Cure) => {
    drop();
    gesture.current = session.begin('cure', subject);
    gesture.current.update(() => cure.scene);
  };
  const cures = disabled ? [] : (found?.cures ?? []);
  const searching = !disabled && !found?.ended;
  if (cures.length === 0 && !searching) return null;
  return (
    <fieldset className="mt-2 flex flex-wrap gap-1.5" aria-busy={searching}>
      <legend className="sr-only">{say.cures}</legend>
      {cures.map(({ cure, causes }) => (
        <span key={cureKey(cure)} className="flex flex-col">
          <Button
            onPointerEnter={() => tryIt(cure)}
            onPointerLeave={drop}
            onFocus={() => tryIt(cure)}
            onBlur={drop}
            onClick={() => {
              drop();
              session.commit('cure', subject, cure.scene);
            }}
          >
            {cureWords(cure, names)}
          </Button>
          {causes.length > 0 && (
            <span className="text-[12px] text-fault">
              {say.thenComes}
              {causes.map((one) => findingTitle(one, names)).join(', ')}
            </span>
          )}
        </span>
      ))}
      <span className="w-full text-[12px] text-ink-2">
        {searching ? say.lookingAtWhatWouldCure : say.eachWasSurveyedAndIs}
      </span>
    </fieldset>
  );
}

/** Names a cure among those of one finding. */
const cureKey = (cure: Cure): string => (cure.kind === 'stop' ? `stop ${cure.channel}` : cure.kind);

/** What is to be painted, and on what. */
function Painting({ finding, disabled }: { finding: Finding; disabled: boolean }) {
  const { shot } = useSession();
  const kind = usePreferences((state) => state.guideKind);
  const onArt = useSurveyView((state) => state.view === 'art');
  const words = paintWords(finding);
  if (words === null || !('planeId' in finding)) return null;
  return (
    <div className="mt-2 flex flex-wrap gap-1.5">
      <MadeFileButton
        disabled={disabled}
        href={guidesUrl(shot.id, kind, [finding.planeId])}
        words={say.wordsGuide(words)}
      />
      {finding.code === 'reveal' && <FillBareButton finding={finding} disabled={disabled} />}
      {!onArt && <Button onClick={() => useSurveyView.setState({ view: 'art' })}>{say.seeItOnTheArt}</Button>}
    </div>
  );
}

function LeaveSo({ finding, left, disabled }: { finding: Finding; left: boolean; disabled: boolean }) {
  const session = useSession();
  const names = useNames();
  const [note, setNote] = useState<string | null>(null);
  const subject = findingTitle(finding, names);
  if (finding.grade === 'advice') return null;
  if (left)
    return (
      <Button
        className="mt-2"
        onClick={() => session.commit('open-again', subject, openAgain(session.state.scene, finding.id))}
      >
        {say.openAgain}
      </Button>
    );
  if (note === null)
    return (
      <Button className="mt-2" disabled={disabled} onClick={() => setNote('')}>
        {say.leaveItSo}
      </Button>
    );
  const leave = () => {
    session.commit('leave-so', subject, leaveSo(session.state.scene, finding.id, note, finding.measured));
    setNote(null);
  };
  return (
    <form
      className="mt-2 flex gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        leave();
      }}
    >
      <input
        aria-label={say.whyItMayStay}
        placeholder={say.whyItMayStay}
        maxLength={500}
        // biome-ignore lint/a11y/noAutofocus: it opens because something is to be typed
        autoFocus
        className="h-[26px] min-w-0 flex-1 rounded-[3px] border border-rule bg-raised px-2"
        value={note}
        onChange={(event) => setNote(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && setNote(null)}
      />
      <Button type="submit">{say.leaveItSo2}</Button>
    </form>
  );
}
