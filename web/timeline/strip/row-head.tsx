import {
  clearChannel,
  isChannelLocked,
  setChannelBeyond,
  setChannelLocked,
  setChannelMuted,
} from '@keen-ridge/core/edits/keys';
import { CLEAR_VISIBILITY_SPX, hexOfPacked, packHex } from '@keen-ridge/core/paint';
import type { Scene } from '@keen-ridge/core/scene';
import {
  type ChannelRef,
  channelAt,
  channelId,
  isColour,
  shownValueAt,
  trackOf,
} from '@keen-ridge/core/staging';
import { BEYONDS, type Beyond, keyAt } from '@keen-ridge/core/timing';
import { trackLength, trackLengthAt } from '@keen-ridge/core/timing/moves';
import { ChevronDown, ChevronRight } from 'lucide-react';
import { memo } from 'react';
import { CHANNEL_WORDS, channelTitle } from '../../edits/channel-words.ts';
import { toggled, useShotView } from '../../session/choices/shot-view.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import type { Session } from '../../session/session.ts';
import { useSession, useSessionState, useShownScene } from '../../session/use-session.ts';
import { classes } from '../../ui/class-names.ts';
import { ColourField } from '../../ui/fields/colour-field.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { formatNumber } from '../../ui/format.ts';
import { Menu, type MenuItem } from '../../ui/menu.tsx';
import { ROVING } from '../../ui/pointer/roving.ts';
import { trialOf } from '../../ui/trial.ts';
import { timelineWords as say } from '../../words/timeline.ts';
import { toggleKey, valueTrial } from '../key-actions.ts';
import type { StripRow } from './strip-rows.ts';
import { GROUP_HEIGHT, ROW_HEIGHT } from './strip-sizes.ts';

/** The name of a whole move, which folds its channels away. */
export const GroupHead = memo(function GroupHead({ row }: { row: Extract<StripRow, { kind: 'group' }> }) {
  const session = useSession();
  const [view, setView] = useShotView();
  const Icon = row.folded ? ChevronRight : ChevronDown;
  return (
    <div
      className="flex items-center gap-1 border-b border-rule-light bg-panel pl-1 pr-3"
      style={{ height: GROUP_HEIGHT }}
    >
      <button
        type="button"
        {...ROVING}
        aria-expanded={!row.folded}
        aria-label={`${row.folded ? 'Unfold' : 'Fold'} ${row.name}`}
        className="grid h-6 w-6 cursor-pointer place-items-center"
        onClick={() => setView({ folded: toggled(view.folded, row.id) })}
      >
        <Icon size={13} aria-hidden="true" />
      </button>
      {row.plane ? (
        <button
          type="button"
          {...ROVING}
          className="narrow min-w-0 flex-1 cursor-pointer truncate text-left font-semibold"
          title={say.chooseThisPlane}
          onClick={() => row.plane && session.select([row.plane])}
        >
          {row.name}
        </button>
      ) : (
        <span className="narrow min-w-0 flex-1 truncate font-semibold">{row.name}</span>
      )}
    </div>
  );
});

/** A channel's name, its value now, a button for its key at this frame, and what can be done to all of it. */
export function ChannelHead({ channel: ref }: { channel: ChannelRef }) {
  const session = useSession();
  const scene = useShownScene();
  const frame = useCalmFrame();
  const soloed = useSessionState((state) => state.soloChannels.includes(channelId(ref)));
  const channel = channelAt(scene, ref);
  const words = CHANNEL_WORDS[ref.name];
  const title = channelTitle(scene, ref);
  const key = channel ? keyAt(channel, frame) : undefined;
  const track = ref.name === 'track' ? trackOf(scene, ref) : null;
  const marks = track ?? channel;
  const locked = isChannelLocked(scene, ref);
  const state = [marks?.muted && 'muted', locked && 'locked', soloed && 'solo'].filter(Boolean).join(', ');
  return (
    <div
      className="flex items-center gap-1 border-b border-rule-light pl-1 pr-1.5"
      style={{ height: ROW_HEIGHT }}
    >
      <button
        type="button"
        {...ROVING}
        aria-pressed={key !== undefined}
        aria-label={key ? say.deleteTheTitleKeyAt(title, frame) : say.keyTitleAtFrameFrame(title, frame)}
        title={key ? say.deleteTheKeyAtThis : say.setAKeyAtThis}
        disabled={locked}
        className="group grid h-6 w-6 shrink-0 cursor-pointer place-items-center disabled:cursor-default disabled:opacity-40"
        onClick={() => toggleKey(session, ref, frame)}
      >
        <span
          className={classes(
            'h-4 w-[7px] rounded-[3px] border',
            key ? 'border-signal bg-signal' : 'border-ink-3 bg-raised group-hover:bg-rule',
          )}
        />
      </button>
      <span className="narrow min-w-0 flex-1 truncate" title={title}>
        <span className={marks?.muted ? 'text-ink-3 line-through' : ''}>{words.name}</span>
        {state && <span className="ml-1 text-[11px] font-semibold text-signal">{state}</span>}
      </span>
      {track ? (
        <span className="num w-[98px] pr-2 text-right">
          {formatNumber(trackLengthAt(track, frame))} / {formatNumber(trackLength(track))} px
        </span>
      ) : isColour(ref.name) ? (
        <ColourField
          className="w-[98px]"
          label={title}
          hideLabel
          disabled={locked}
          colour={hexOfPacked(shownValueAt(scene, ref, frame))}
          trial={trialOf(valueTrial(session, ref), packHex)}
        />
      ) : (
        <NumberField
          className="w-[98px]"
          label={title}
          hideLabel
          unit={words.unit}
          decimals={words.decimals}
          step={words.step}
          signed={words.signed}
          disabled={locked}
          value={isClearAir(scene, ref, frame) ? null : shownValueAt(scene, ref, frame) * words.times}
          context={{ hundredPercent: words.times }}
          trial={trialOf(valueTrial(session, ref), (value: number) => value / words.times)}
        />
      )}
      <ChannelMenu channel={ref} />
    </div>
  );
}

/** Clear air is seen through to no end: there is no number for it. */
const isClearAir = (scene: Scene, ref: ChannelRef, frame: number): boolean =>
  ref.name === 'visibility' && shownValueAt(scene, ref, frame) >= CLEAR_VISIBILITY_SPX;

function ChannelMenu({ channel: ref }: { channel: ChannelRef }) {
  const session = useSession();
  const scene = useShownScene();
  const solo = useSessionState((state) => state.soloChannels);
  const [view, setView] = useShotView();
  const id = channelId(ref);
  const title = channelTitle(scene, ref);
  const marks = ref.name === 'track' ? trackOf(scene, ref) : channelAt(scene, ref);
  const kept = () => session.state.scene;
  const pinned = view.pinned.includes(id);
  const items: MenuItem[] = [
    {
      label: marks?.muted ? say.moveAgain : say.muteRestAsIfUnkeyed,
      onSelect: () =>
        session.commit(
          marks?.muted ? 'unmute-channel' : 'mute-channel',
          title,
          setChannelMuted(kept(), ref, !marks?.muted),
        ),
    },
    {
      label: solo.includes(id) ? say.letTheOthersMove : say.soloOnlyThisMoves,
      onSelect: () => session.soloChannel(toggled(solo, id)),
    },
    {
      label: marks?.locked ? say.unlock : say.lockAgainstEdits,
      onSelect: () =>
        session.commit(
          marks?.locked ? 'unlock-channel' : 'lock-channel',
          title,
          setChannelLocked(kept(), ref, !marks?.locked),
        ),
    },
    ...beyondItems(session, ref, title),
    ...(ref.on === 'plane' && ref.name !== 'track'
      ? [
          {
            heading: say.row,
            label: pinned ? say.unpinTheRow : say.pinTheRow,
            onSelect: () => setView({ pinned: toggled(view.pinned, id) }),
          },
        ]
      : []),
    {
      ...(ref.on === 'camera' ? { heading: say.keys2 } : {}),
      label: say.chooseAllItsKeys,
      onSelect: () => {
        const keys = channelAt(kept(), ref)?.keys ?? [];
        session.selectKeys(keys.map(({ frame }) => ({ channel: id, frame })));
      },
    },
    {
      label: say.clearTakeAllKeysAway,
      danger: true,
      onSelect: () => {
        session.selectKeys(session.state.selectedKeys.filter((key) => key.channel !== id));
        session.commit('clear-channel', title, clearChannel(kept(), ref, session.state.frame));
      },
    },
  ];
  return <Menu roving label={say.moreForTitle(title)} items={items} />;
}

const BEYOND_WORDS: Readonly<Record<Beyond, string>> = {
  repeat: say.repeat,
  'there-and-back': say.thereAndBack,
  'go-on': say.goOnFromWhereIt,
};
const SIDE_WORDS = { after: say.afterTheLastKey, before: say.beforeTheFirstKey } as const;

/** What a channel does beyond its keys: three keys of a bobbing boat are enough for a whole shot. */
function beyondItems(session: Session, ref: ChannelRef, title: string): MenuItem[] {
  const channel = channelAt(session.state.scene, ref);
  if (!channel || channel.keys.length < 2) return [];
  return (['after', 'before'] as const).flatMap((side) =>
    [null, ...BEYONDS].map(
      (beyond, i): MenuItem => ({
        label: beyond ? BEYOND_WORDS[beyond] : say.rest,
        ...(i === 0 ? { heading: SIDE_WORDS[side] } : {}),
        checked: (channel[side] ?? null) === beyond,
        onSelect: () =>
          session.commit('set-beyond', title, setChannelBeyond(session.state.scene, ref, side, beyond)),
      }),
    ),
  );
}
