import { boundsOf, restCamera, setSelectedValue, stretchSelected } from '@keen-ridge/core/edits/keys';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import type { Scene } from '@keen-ridge/core/scene';
import { channelAt, channelRef, isColour, keyedChannels, shownScale } from '@keen-ridge/core/staging';
import { rationalToNumber } from '@keen-ridge/core/units';
import { useState } from 'react';
import { toast } from 'sonner';
import { CHANNEL_WORDS } from '../../edits/channel-words.ts';
import { keySelection } from '../../session/choices/key-selection.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { Popover } from '../../ui/popover.tsx';
import { timelineWords as say } from '../../words/timeline.ts';
import {
  chooseAfter,
  copyChosen,
  deleteChosen,
  duplicateChosen,
  keysWord,
  moveChosen,
  pasteCopied,
  reverseChosen,
  smoothChosen,
} from '../key-actions.ts';

/** Everything that can be done to the chosen keys, and a rest of the whole camera. */
export function KeysPopover() {
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  const count = selectedKeys.length;
  return (
    <Popover label={count === 0 ? say.keys : count === 1 ? say.oneKey : say.countKeys(count)} wide>
      <ChosenKeys />
      <RestControls />
    </Popover>
  );
}

function ChosenKeys() {
  const session = useSession();
  const scene = useShownScene();
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  const none = selectedKeys.length === 0;
  const [first, last] = none ? [1, 1] : boundsOf(keySelection(selectedKeys));
  const channels = new Set(selectedKeys.map((key) => key.channel));
  const [only] = channels;
  const single = channels.size === 1 && only ? channelRef(only) : null;
  const stretch = (length: number) => {
    const factor = length / Math.max(1, last - first);
    const kept = session.state.scene;
    session.commit(
      'stretch-keys',
      keysWord(kept, selectedKeys),
      stretchSelected(kept, keySelection(selectedKeys), factor),
    );
    chooseAfter(session, selectedKeys, (frame) => first + (frame - first) * factor);
  };
  return (
    <>
      {none && <p className="mb-2 text-ink-2">{say.chooseKeysClickOneAdd}</p>}
      <div className="flex flex-wrap gap-1">
        <Button
          disabled={selectedKeys.length < 2}
          title={say.theSpeedRunsOnThrough}
          onClick={() => smoothChosen(session)}
        >
          {say.smooth}
        </Button>
        <Button
          disabled={selectedKeys.length < 2}
          title={say.runsThemBackwardsEasesToo}
          onClick={() => reverseChosen(session)}
        >
          {say.reverse}
        </Button>
        <Button disabled={none} title={say.ctrlD} onClick={() => duplicateChosen(session)}>
          {say.duplicate}
        </Button>
        <Button disabled={none} title={say.ctrlC} onClick={() => copyChosen(session)}>
          {say.copy}
        </Button>
        <Button title={say.ctrlVAtThePlayhead} onClick={() => pasteCopied(session)}>
          {say.paste}
        </Button>
        <Button
          disabled={!single}
          title={say.intoTheChannelOfThe}
          onClick={() => single && pasteCopied(session, single)}
        >
          {say.pasteIntoThisChannel}
        </Button>
        <Button tone="danger" disabled={none} title={say.deleteIt} onClick={() => deleteChosen(session)}>
          {say.deleteIt}
        </Button>
      </div>
      <div className="mt-3 grid grid-cols-3 gap-2">
        <NumberField
          label={selectedKeys.length === 1 ? say.frame : say.firstFrame}
          unit="f"
          min={1}
          disabled={none}
          value={none ? null : first}
          onCommit={(value) => moveChosen(session, Math.round(value) - first)}
        />
        <NumberField
          label={say.lasts}
          unit="f"
          min={1}
          disabled={last === first}
          value={last === first ? null : last - first}
          context={{ framesPerSecond: rationalToNumber(scene.rate), hundredPercent: last - first }}
          onCommit={stretch}
        />
        <ValueField />
      </div>
    </>
  );
}

/** One value for all chosen keys of one channel. */
function ValueField() {
  const session = useSession();
  const scene = useShownScene();
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  const channels = new Set(selectedKeys.map((key) => key.channel));
  const [only] = channels;
  const ref = channels.size === 1 && only ? channelRef(only) : null;
  const words = ref && ref.name !== 'track' && !isColour(ref.name) ? CHANNEL_WORDS[ref.name] : null;
  const values = ref
    ? selectedKeys.map(({ frame }) => {
        const key = channelAt(scene, ref)?.keys.find((k) => k.frame === frame);
        return key ? shownScale(scene, ref).show(key.value) : Number.NaN;
      })
    : [];
  const common = words && values.every((value) => value === values[0]) ? values[0]! * words.times : null;
  return (
    <NumberField
      label={say.value2}
      unit={words?.unit ?? ''}
      decimals={words?.decimals ?? 0}
      step={words?.step ?? 1}
      disabled={!words}
      value={common}
      onCommit={(value) => {
        if (!words) return;
        const kept = session.state.scene;
        session.commit(
          'set-keys',
          keysWord(kept, selectedKeys),
          setSelectedValue(kept, keySelection(selectedKeys), value / words.times),
        );
      }}
    />
  );
}

const lastCameraKey = (scene: Scene): number =>
  Math.max(
    1,
    ...keyedChannels(scene).flatMap((ref) =>
      ref.on === 'camera' ? (channelAt(scene, ref)?.keys.map((key) => key.frame) ?? []) : [],
    ),
  );

function RestControls() {
  const session = useSession();
  const rate = useSessionState((state) => state.scene.rate);
  const frame = useCalmFrame();
  const [frames, setFrames] = useState(12);
  const [pushLater, setPushLater] = useState(true);
  const rest = () => {
    const { scene } = session.state;
    session.commit('rest-camera', `${frame}`, restCamera(scene, { frame, frames, pushLater }));
    const last = lastCameraKey(session.state.scene);
    if (last <= scene.lengthFrames || last <= lastCameraKey(scene)) return;
    toast(say.theMoveNowEndsAt(last), {
      action: {
        label: say.makeItLastFLong(last),
        onClick: () => session.commit('set-length', 'the shot', setShotLength(session.state.scene, last)),
      },
    });
  };
  return (
    <div className="mt-3 border-t border-rule-light pt-3">
      <p className="mb-1.5 font-semibold">{say.restOfTheCameraAt(frame)}</p>
      <div className="flex items-end gap-2">
        <NumberField
          className="w-20"
          label={say.forIt}
          unit="f"
          min={1}
          max={10_000}
          value={frames}
          context={{ framesPerSecond: rationalToNumber(rate) }}
          onCommit={(value) => setFrames(Math.max(1, Math.round(value)))}
        />
        <Button on={pushLater} title={say.offKeysWithinTheRest} onClick={() => setPushLater(!pushLater)}>
          {say.laterKeysMoveOn}
        </Button>
        <Button onClick={rest}>{say.rest}</Button>
      </div>
    </div>
  );
}
