import { GUIDE_FORMATS, type GuideFormat } from '@keen-ridge/core/contract';
import type { ReactNode } from 'react';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { Choice } from '../ui/fields/choice.tsx';

export type GuideKind = GuideFormat;
export const GUIDE_WORDS: Readonly<Record<GuideKind, string>> = {
  png: 'PNG',
  openraster: 'OpenRaster',
  psd: 'PSD',
};

/** In which format guides are wanted, remembered, and the choice of it. */
export function useGuideKind(): readonly [GuideKind, ReactNode] {
  const kind = usePreferences((state) => state.guideKind);
  return [
    kind,
    <Choice
      key="kind"
      label="Guides as"
      hideLabel
      options={GUIDE_FORMATS}
      words={GUIDE_WORDS}
      value={kind}
      onChange={(guideKind) => setPreferences({ guideKind })}
    />,
  ];
}
