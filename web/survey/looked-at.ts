import type { Finding } from '@keen-ridge/core/survey';
import { create } from 'zustand';
import type { Session } from '../session/session.ts';

/** The finding that is looked at, by its id. */
export const useLookedAt = create<{ readonly id: string | null }>(() => ({ id: null }));

/** Looks at a finding: its worst frame, its plane. */
export function lookAt(session: Session, finding: Finding): void {
  useLookedAt.setState({ id: finding.id });
  session.setPlaying(false);
  session.goTo(finding.worstFrame);
  if ('planeId' in finding) session.select([finding.planeId]);
}

/** Through the camera, or on a plane's own art. */
export const SURVEY_VIEWS = ['camera', 'art'] as const;
export type SurveyView = (typeof SURVEY_VIEWS)[number];
export const useSurveyView = create<{ readonly view: SurveyView }>(() => ({ view: 'camera' }));
