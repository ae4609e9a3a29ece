import { setPreferences, usePreferences } from '../../session/choices/preferences.ts';
import { Button } from '../../ui/button.tsx';
import { timelineWords as say } from '../../words/timeline.ts';
import { EaseBar } from '../controls/ease-bar.tsx';
import { KeysPopover } from '../controls/keys-popover.tsx';
import { PinPopover } from '../controls/pin-popover.tsx';
import { PlayPopover } from '../controls/play-popover.tsx';
import { ShotLength } from '../controls/shot-length.tsx';
import { SoundPopover } from '../controls/sound-popover.tsx';
import { SpeedNotice } from '../controls/speed-notice.tsx';
import { useKeyCommands } from '../key-commands.ts';
import { PlayButton } from '../transport.tsx';
import { StripBody } from './strip-body.tsx';
import { HeightHandle } from './strip-height.tsx';
import type { RowsOf } from './strip-rows.ts';

/** Time across, a row a channel: keys upright, spans filled with their speed. */
export function TimingStrip({ of = 'move' }: { of?: RowsOf }) {
  useKeyCommands();
  return (
    <section aria-label={say.timing} className="@container relative shrink-0 border-t border-rule bg-bar">
      <HeightHandle of={of} />
      <div className="flex min-h-[34px] items-center gap-1.5 border-b border-rule px-3 py-[3px] @max-xl:flex-wrap">
        <PlayButton />
        {/* Beside a dock there is no room for what the Move step has too. */}
        {of === 'move' && (
          <>
            <ReplaySwitch />
            <PlayPopover />
            <ShotLength />
            <PinPopover />
            <SoundPopover />
          </>
        )}
        <SpeedNotice />
        <span className="flex-1 @max-xl:hidden" />
        <EaseBar />
        <KeysPopover />
      </div>
      <StripBody of={of} />
    </section>
  );
}

/** Whether play begins again at its end. */
function ReplaySwitch() {
  const loop = usePreferences((state) => state.loop);
  return (
    <Button on={loop} onClick={() => setPreferences({ loop: !loop })}>
      {say.replay}
    </Button>
  );
}
