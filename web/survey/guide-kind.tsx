import { GUIDE_FORMATS, type GuideFormat } from '@keen-ridge/core/contract';
import type { ReactNode } from 'react';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { Choice } from '../ui/fields/choice.tsx';
import { surveyWords as say } from '../words/survey.ts';

export const GUIDE_WORDS: Readonly<Record<GuideFormat, string>> = {
  png: say.png,
  openraster: say.openraster,
  psd: say.psd,
};

/** In which format guides are wanted, remembered, and the choice of it. */
export function useGuideKind(): readonly [GuideFormat, ReactNode] {
  const kind = usePreferences((state) => state.guideKind);
  return [
    kind,
    <Choice
      key="kind"
      label={say.guidesAs}
      hideLabel
      options={GUIDE_FORMATS}
      words={GUIDE_WORDS}
      value={kind}
      onChange={(guideKind) => setPreferences({ guideKind })}
    />,
  ];
}
