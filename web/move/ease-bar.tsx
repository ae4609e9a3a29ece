import { setCameraEase } from '@keen-ridge/core/document';
import { EASE_PRESET_NAMES, EASE_PRESETS, type EasePresetName, easePresetOf } from '@keen-ridge/core/timing';
import { keySelection } from '../state/key-selection.ts';
import { useSession, useSessionState } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { CHANNEL_WORDS } from './channel-words.ts';

const EASE_WORDS: Readonly<Record<EasePresetName, { word: string; means: string }>> = {
  linear: { word: 'Even', means: 'The same speed all through' },
  hold: { word: 'Hold', means: 'Rests, then jumps at the next key' },
  in: { word: 'In', means: 'Starts slowly' },
  out: { word: 'Out', means: 'Ends slowly' },
  'in-out': { word: 'In-out', means: 'Starts and ends slowly' },
};

/** The ease of the spans that leave the selected keys. */
export function EaseBar() {
  const session = useSession();
  const camera = useSessionState((state) => (state.preview ?? state.scene).camera);
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  const spans = selectedKeys.flatMap(({ channel, frame }) => {
    const { keys } = camera[channel];
    const index = keys.findIndex((key) => key.frame === frame);
    const [from, to] = [keys[index], keys[index + 1]];
    return from && to ? [{ channel, from, to }] : [];
  });
  const presets = new Set(spans.map(({ from }) => easePresetOf(from.ease)));
  const [first] = spans;
  const what =
    spans.length === 0 || !first
      ? 'Ease: choose a span'
      : spans.length === 1
        ? `Ease of ${CHANNEL_WORDS[first.channel].name} ${first.from.frame} → ${first.to.frame}`
        : `Ease of ${spans.length} spans`;
  const apply = (name: EasePresetName) => {
    const keys = keySelection(spans.map(({ channel, from }) => ({ channel, frame: from.frame })));
    session.commit(
      'set-ease',
      what.replace('Ease of ', ''),
      setCameraEase(session.state.scene, keys, EASE_PRESETS[name]),
    );
  };
  return (
    <fieldset className="flex items-center gap-1.5" disabled={spans.length === 0}>
      <legend className="sr-only">Ease</legend>
      <span className="text-ink-2">{what}</span>
      {EASE_PRESET_NAMES.map((name) => (
        <Button
          key={name}
          on={presets.size === 1 && presets.has(name)}
          title={EASE_WORDS[name].means}
          disabled={spans.length === 0}
          onClick={() => apply(name)}
        >
          {EASE_WORDS[name].word}
        </Button>
      ))}
    </fieldset>
  );
}
