import {
  boundsOf,
  copyKeys,
  deleteSelected,
  duplicateSelected,
  type KeySelection,
  keyAsItIs,
  moveSelected,
  pasteKeys,
  reverseSelected,
  rollSelected,
  setChannelValue,
  smoothSelected,
} from '@keen-ridge/core/edits/keys';
import type { EditAction } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { type ChannelId, type ChannelRef, channelAt, channelId, channelRef } from '@keen-ridge/core/staging';
import { toast } from 'sonner';
import { channelTitle } from '../edits/channel-words.ts';
import { readCopiedKeys, storeCopiedKeys } from '../session/choices/copied-keys.ts';
import { noteCopied } from '../session/choices/copied-planes.ts';
import { keySelection, selectedOf } from '../session/choices/key-selection.ts';
import { usePreferences } from '../session/choices/preferences.ts';
import { sceneTrial } from '../session/scene-trial.ts';
import type { Session } from '../session/session.ts';
import type { SelectedKey } from '../session/state/choice.ts';
import { counted } from '../ui/format.ts';
import type { BeginTrial } from '../ui/trial.ts';
import { timelineWords as say } from '../words/timeline.ts';

/** What a choice of keys is called in the history: its channel, or how many keys. */
export function keysWord(scene: Scene, keys: readonly SelectedKey[]): string {
  const channels = new Set(keys.map((key) => key.channel));
  const [only] = channels;
  return channels.size === 1 && only ? channelTitle(scene, channelRef(only)) : `${keys.length} keys`;
}

function edit(
  session: Session,
  action: EditAction,
  change: (scene: Scene, keys: KeySelection) => Scene,
): void {
  const { scene, selectedKeys } = session.state;
  if (selectedKeys.length === 0) return;
  session.commit(action, keysWord(scene, selectedKeys), change(scene, keySelection(selectedKeys)));
}

/** Chooses keys that were `chosen` where they were sent: those that are there. */
export function chooseAfter(
  session: Session,
  chosen: readonly SelectedKey[],
  to: (frame: number) => number,
): void {
  const { scene } = session.state;
  session.selectKeys(
    chosen
      .map(({ channel, frame }) => ({ channel, frame: Math.round(to(frame)) }))
      .filter(({ channel, frame }) =>
        channelAt(scene, channelRef(channel))?.keys.some((key) => key.frame === frame),
      ),
  );
}

export function moveChosen(session: Session, by: number): void {
  const { selectedKeys } = session.state;
  if (selectedKeys.some((key) => key.frame + by < 1)) return;
  edit(session, 'move-keys', (scene, keys) => moveSelected(scene, keys, by));
  chooseAfter(session, selectedKeys, (frame) => frame + by);
}

/** Rolls the chosen keys between their neighbours. */
export function rollChosen(session: Session, by: number): void {
  const { selectedKeys } = session.state;
  edit(session, 'roll-keys', (scene, keys) => rollSelected(scene, keys, by));
  chooseAfter(session, selectedKeys, (frame) => frame + by);
}

export function deleteChosen(session: Session): void {
  edit(session, 'delete-keys', deleteSelected);
  session.selectKeys([]);
}

export function copyChosen(session: Session): void {
  const { scene, selectedKeys } = session.state;
  if (selectedKeys.length === 0) return;
  const kept = storeCopiedKeys(copyKeys(scene, keySelection(selectedKeys)));
  if (kept && noteCopied('keys'))
    toast(say.copiedCounted(counted(selectedKeys.length, 'key')), { duration: 1500 });
  else toast.error(say.theBrowsersStorageIsFull);
}

/**
 * Pastes at the playhead: onto the chosen planes where keys of planes were copied, into the channel of the chosen keys
 * where a single channel was; else where the keys came from.
 */
export function pasteCopied(session: Session, into: ChannelRef | null = null): void {
  const copied = readCopiedKeys();
  const { scene, frame, selection } = session.state;
  const pasted = copied && pasteKeys(scene, copied, frame, { into, onto: selection });
  if (!pasted) {
    toast(copied ? say.thoseKeysDoNotFit : say.noKeysWereCopiedYet);
    return;
  }
  const keys = selectedOf(pasted.keys);
  const edit = session.commit('paste-keys', keysWord(pasted.scene, keys), pasted.scene);
  session.selectKeys(keys);
  const beyond = keys.filter((key) => key.frame > scene.lengthFrames).length;
  if (edit && beyond > 0)
    toast(say.countedOfLengthLiePast(counted(beyond, 'key'), keys.length, scene.lengthFrames));
}

export function duplicateChosen(session: Session): void {
  const { selectedKeys } = session.state;
  if (selectedKeys.length === 0) return;
  const [first, last] = boundsOf(keySelection(selectedKeys));
  const by = last - first + 1;
  edit(session, 'duplicate-keys', (scene, keys) => duplicateSelected(scene, keys, by));
  chooseAfter(session, selectedKeys, (frame) => frame + by);
}

export function reverseChosen(session: Session): void {
  const { selectedKeys } = session.state;
  if (selectedKeys.length === 0) return;
  const [first, last] = boundsOf(keySelection(selectedKeys));
  edit(session, 'reverse-keys', reverseSelected);
  chooseAfter(session, selectedKeys, (frame) => first + last - frame);
}

export const smoothChosen = (session: Session): void => edit(session, 'smooth-keys', smoothSelected);

/** Sets a key that changes nothing at a frame, or takes the one there away. */
export function toggleKey(session: Session, ref: ChannelRef, frame: number): void {
  const { scene } = session.state;
  const title = channelTitle(scene, ref);
  const there = channelAt(scene, ref)?.keys.some((key) => key.frame === frame);
  const here = new Map<ChannelId, Set<number>>([[channelId(ref), new Set([frame])]]);
  if (there) session.commit('delete-keys', title, deleteSelected(scene, here));
  else session.commit(ref.on === 'camera' ? 'key-camera' : 'key-plane', title, keyAsItIs(scene, ref, frame));
}

/** Tries values of one channel at the playhead, keyed or shifted as Keying says. */
export const valueTrial = (session: Session, ref: ChannelRef): BeginTrial<number> =>
  valuesTrial(session, [ref], channelTitle(session.state.scene, ref));

/** The same of a channel that several planes have. */
export function valuesTrial(
  session: Session,
  refs: readonly ChannelRef[],
  subject: string,
): BeginTrial<number> {
  const { keying } = usePreferences.getState();
  const onCamera = refs[0]?.on === 'camera';
  const action = onCamera ? (keying ? 'key-camera' : 'shift-camera') : keying ? 'key-plane' : 'shift-plane';
  const { frame } = session.state;
  return sceneTrial(session, action, subject, (kept, value) =>
    refs.reduce((scene, ref) => setChannelValue(scene, ref, value, { frame, keying }), kept),
  );
}
