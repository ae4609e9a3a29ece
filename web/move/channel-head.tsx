import { type CameraChannel, cameraValueAt, deleteCameraKeys, setCamera } from '@keen-ridge/core/document';
import { keyAt } from '@keen-ridge/core/timing';
import { useSession, useSessionState, useShownScene } from '../state/use-session.ts';
import { classes } from '../ui/class-names.ts';
import { NumberField } from '../ui/number-field.tsx';
import { commitCamera, withCamera } from './camera-edits.ts';
import { CHANNEL_WORDS } from './channel-words.ts';
import { ROW_HEIGHT } from './timing-strip.tsx';

/** A channel's name, its value now, and a button that sets or takes away its key at this frame. */
export function ChannelHead({ name }: { name: CameraChannel }) {
  const session = useSession();
  const scene = useShownScene();
  const frame = useSessionState((state) => state.frame);
  const words = CHANNEL_WORDS[name];
  const key = keyAt(scene.camera[name], frame);
  const toggleKey = () => {
    const { scene: kept } = session.state;
    if (key) {
      session.commit('delete-keys', words.name, deleteCameraKeys(kept, new Map([[name, new Set([frame])]])));
    } else {
      const value = cameraValueAt(kept, name, frame);
      session.commit('key-camera', words.name, setCamera(kept, { [name]: value }, { frame, keying: true }));
    }
  };
  return (
    <div className="flex items-center gap-2 border-b border-rule-light px-3" style={{ height: ROW_HEIGHT }}>
      <button
        type="button"
        aria-pressed={key !== undefined}
        aria-label={
          key ? `Take away the ${words.name} key at frame ${frame}` : `Key ${words.name} at frame ${frame}`
        }
        title={key ? 'Take away the key at this frame' : 'Set a key at this frame'}
        className={classes(
          'h-4 w-[7px] shrink-0 cursor-pointer rounded-[3px] border',
          key ? 'border-signal bg-signal' : 'border-ink-3 bg-raised hover:bg-rule',
        )}
        onClick={toggleKey}
      />
      <span className="min-w-0 flex-1 truncate">{words.name}</span>
      <NumberField
        className="w-[104px]"
        label={words.name}
        hideLabel
        unit={words.unit}
        decimals={words.decimals}
        step={words.step}
        signed={words.signed}
        value={cameraValueAt(scene, name, frame)}
        context={{ hundredPercent: 1 }}
        onPreview={(value) => session.show(withCamera(session, { [name]: value }))}
        onCommit={(value) => commitCamera(session, { [name]: value })}
        onCancel={() => session.show(null)}
      />
    </div>
  );
}
