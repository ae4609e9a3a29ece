import { deleteSelected, isChannelLocked, keyAsItIs } from '@keen-ridge/core/edits/keys';
import { hexOfPacked, packHex } from '@keen-ridge/core/paint';
import {
  CHANNEL_KINDS,
  type ChannelRef,
  channelAt,
  channelId,
  isColour,
  shownValueAt,
} from '@keen-ridge/core/staging';
import { keyAt } from '@keen-ridge/core/timing';
import { CHANNEL_WORDS } from '../../edits/channel-words.ts';
import { useCalmFrame, useCalmScene } from '../../session/pace/use-calm.ts';
import { useSession } from '../../session/use-session.ts';
import { valuesTrial } from '../../timeline/key-actions.ts';
import { classes } from '../../ui/class-names.ts';
import { ColourField } from '../../ui/fields/colour-field.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { trialOf } from '../../ui/trial.ts';
import { lookWords as say } from '../../words/look.ts';

interface LookFieldProps {
  label: string;
  /** The channel, of one plane or of several that are set alike. */
  refs: readonly ChannelRef[];
  /** What it is called in the history. */
  subject: string;
  step?: number;
  /** Above this nothing is told: it stands for none. */
  none?: number;
}

/** A number or a colour of a look, and the pill that keys it at this frame. */
export function LookField({ label, refs, subject, step, none }: LookFieldProps) {
  const session = useSession();
  const scene = useCalmScene();
  const frame = useCalmFrame();
  const [first] = refs;
  if (!first || first.name === 'track') return null;
  const words = CHANNEL_WORDS[first.name];
  const { min, max } = CHANNEL_KINDS[first.name];
  const values = refs.map((ref) => shownValueAt(scene, ref, frame));
  const [value = 0] = values;
  const same = values.every((one) => one === value);
  const disabled = refs.every((ref) => isChannelLocked(scene, ref));
  const trial = valuesTrial(session, refs, subject);
  return (
    <div className="flex min-w-0 items-end gap-0.5">
      {isColour(first.name) ? (
        <ColourField
          className="min-w-0 flex-1"
          label={label}
          disabled={disabled}
          colour={hexOfPacked(value)}
          trial={trialOf(trial, packHex)}
        />
      ) : (
        <NumberField
          className="flex-1"
          label={label}
          unit={words.unit}
          decimals={words.decimals}
          step={step ?? words.step}
          signed={words.signed}
          disabled={disabled}
          min={(min ?? -1e8) * words.times}
          max={(max ?? 1e8) * words.times}
          value={same && !(none !== undefined && value >= none) ? value * words.times : null}
          context={{ hundredPercent: words.times }}
          trial={trialOf(trial, (shown: number) => shown / words.times)}
        />
      )}
      <KeyPill label={label} refs={refs} frame={frame} disabled={disabled} />
    </div>
  );
}

interface KeyPillProps {
  label: string;
  refs: readonly ChannelRef[];
  frame: number;
  disabled: boolean;
}

/** Keys what there is at this frame, or takes the key there away. */
function KeyPill({ label, refs, frame, disabled }: KeyPillProps) {
  const session = useSession();
  const scene = useCalmScene();
  const has = (ref: ChannelRef) => {
    const channel = channelAt(scene, ref);
    return channel !== null && keyAt(channel, frame) !== undefined;
  };
  const keyed = refs.every(has);
  const title = label.toLowerCase();
  const flip = () => {
    const kept = session.state.scene;
    const here = new Map(refs.map((ref) => [channelId(ref), new Set([frame])] as const));
    if (keyed) session.commit('delete-keys', label, deleteSelected(kept, here));
    else
      session.commit(
        refs[0]?.on === 'camera' ? 'key-camera' : 'key-plane',
        label,
        refs.reduce((changed, ref) => keyAsItIs(changed, ref, frame), kept),
      );
  };
  return (
    <button
      type="button"
      aria-pressed={keyed}
      aria-label={keyed ? say.deleteTitleKeyHere(title) : say.keyTitleHere(title)}
      title={keyed ? say.deleteTitleKeyHere(title) : say.keyTitleHere(title)}
      disabled={disabled}
      className="group grid h-[26px] w-6 shrink-0 cursor-pointer place-items-center disabled:cursor-default disabled:opacity-40"
      onClick={flip}
    >
      <span
        className={classes(
          'h-4 w-[7px] rounded-[3px] border',
          keyed ? 'border-signal bg-signal' : 'border-ink-3 bg-raised group-hover:bg-rule',
        )}
      />
    </button>
  );
}
