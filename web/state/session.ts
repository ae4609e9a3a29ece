import { type HistoryEntry, LARGEST_BODY_BYTES, type Shot } from '@keen-ridge/core/contract';
import {
  applyScenePatch,
  type ChannelId,
  changeBetween,
  channelAt,
  channelRef,
  type EditAction,
  LIMITS,
  type Patch,
  type PlaneId,
  type Scene,
  stageFault,
} from '@keen-ridge/core/document';
import type { Point } from '@keen-ridge/core/geometry';
import type { FrameRange } from '@keen-ridge/core/shot';
import type { CameraPose, Rock } from '@keen-ridge/core/stage';
import { cleanName } from '@keen-ridge/core/units';
import { toast } from 'sonner';
import { createStore, type StoreApi } from 'zustand';
import { OpQueue, type SaveState } from './op-queue.ts';

export interface SelectedKey {
  readonly channel: ChannelId;
  readonly frame: number;
}

/** What is laid beside the picture along a line that is dragged: another frame, or another set-up. */
export interface Wipe {
  readonly word: string;
  /** Null: the set-up as it is now. */
  readonly scene: Scene | null;
  /** Null: the frame where the playhead stands. */
  readonly frame: number | null;
  /** Where the line is, as a share of the picture's width. */
  readonly at: number;
}

/** Which part of the shot has been rendered ahead, and whether more of it is being. */
export interface Preroll {
  readonly frames: ReadonlySet<number>;
  /** Null while none is asked for. */
  readonly wanted: FrameRange | null;
}

export interface SessionState {
  /** As edited here; the server may still be a few ops behind. */
  readonly scene: Scene;
  /** What is shown while a gesture is under way; nothing of it is kept until it ends. */
  readonly preview: Scene | null;
  readonly undo: readonly HistoryEntry[];
  readonly redo: readonly HistoryEntry[];
  readonly saveState: SaveState;
  /** What the server said, where it did not take an edit. */
  readonly saveFault: string | null;
  readonly selection: readonly PlaneId[];
  /** Planes that are shown alone in the picture; nothing of it is kept or handed off. */
  readonly solo: readonly PlaneId[];
  /** The moving plane whose neighbouring exposures are laid over the picture. */
  readonly onion: PlaneId | null;
  readonly selectedKeys: readonly SelectedKey[];
  /** Channels that alone move in the picture; none means all. */
  readonly soloChannels: readonly ChannelId[];
  readonly wipe: Wipe | null;
  /** The camera sways in the picture; nothing of it is kept. */
  readonly rock: Rock | null;
  /** A plane whose speed is being measured, and the first sighting of it. */
  readonly measuring: Measuring | null;
  /** A stand-in figure on a plane, for judging sizes; nothing of it is kept. */
  readonly figure: StandInFigure | null;
  readonly frame: number;
  readonly playing: boolean;
  /** Frames that real time ran past during the last play. */
  readonly dropped: number;
}

export interface Measuring {
  readonly planeId: PlaneId;
  readonly first: { readonly frame: number; readonly at: Point } | null;
}

export interface StandInFigure {
  readonly planeId: PlaneId;
  /** Where its feet stand at home, output px from the middle of the frame. */
  readonly feet: Point;
}

/** What a request holds beside the patch of an edit is small. */
const LARGEST_PATCH_BYTES = LARGEST_BODY_BYTES - 2 ** 20;
const bytesOf = (patch: Patch): number => new TextEncoder().encode(JSON.stringify(patch)).length;

/** One open shot: its scene, its history, what is selected and where the playhead stands. */
export class Session {
  readonly shot: Shot;
  readonly store: StoreApi<SessionState>;
  /** The camera as it sways just now, apart from the rest: it changes every frame of the display. */
  readonly swayed: StoreApi<{ readonly pose: CameraPose | null }> = createStore(() => ({ pose: null }));
  /** Rendered frames that wait to be played, apart from the rest: they come one by one. */
  readonly preroll: StoreApi<Preroll> = createStore(() => ({ frames: new Set<number>(), wanted: null }));
  /** The frame that the picture last showed at full quality, for playing every frame. */
  readonly drawn: StoreApi<{ readonly frame: number }> = createStore(() => ({ frame: 0 }));
  private readonly queue: OpQueue;

  constructor(shot: Shot) {
    this.shot = shot;
    this.store = createStore<SessionState>(() => ({
      scene: shot.scene,
      preview: null,
      undo: shot.undo,
      redo: shot.redo,
      saveState: 'saved',
      saveFault: null,
      selection: [],
      solo: [],
      onion: null,
      selectedKeys: [],
      soloChannels: [],
      wipe: null,
      rock: null,
      measuring: null,
      figure: null,
      frame: 1,
      playing: false,
      dropped: 0,
    }));
    this.queue = new OpQueue(shot.id, shot.revision, (saveState, saveFault) =>
      this.set({ saveState, saveFault }),
    );
  }

  get state(): SessionState {
    return this.store.getState();
  }

  /** The scene as it is shown now. */
  get shown(): Scene {
    return this.state.preview ?? this.state.scene;
  }

  get knownRevision(): number {
    return this.queue.knownRevision;
  }

  get unsent(): number {
    return this.queue.pending;
  }

  private set(part: Partial<SessionState>): void {
    this.store.setState(part);
  }

  /** Shows a scene without keeping it; null goes back to what is kept. */
  show(preview: Scene | null): void {
    const { camera, move } = this.state.scene;
    if (preview && (preview.camera !== camera || preview.move !== move)) this.setRock(null);
    this.set({ preview });
  }

  /** Keeps a scene as one edit. Nothing happens when it changes nothing. */
  commit(action: EditAction, subject: string, scene: Scene): void {
    const fault = stageFault(scene);
    if (fault) {
      this.set({ preview: null });
      toast.error(`${fault}: nothing was changed.`);
      return;
    }
    const { camera, move } = this.state.scene;
    if (scene.camera !== camera || scene.move !== move) this.setRock(null);
    const change = changeBetween(this.state.scene, scene);
    if (!change) {
      this.set({ preview: null });
      return;
    }
    const { patch, inverse } = change;
    if (bytesOf(patch) > LARGEST_PATCH_BYTES) {
      this.set({ preview: null });
      toast.error(
        `This one edit is larger than the ${Math.floor(LARGEST_PATCH_BYTES / 2 ** 20)} MiB that can be kept at once: nothing was changed. Do it in parts.`,
      );
      return;
    }
    const entry: HistoryEntry = {
      action,
      subject: cleanName(subject, LIMITS.nameLength.max),
      patch,
      inverse,
    };
    this.set({ scene, preview: null, undo: [...this.state.undo, entry], redo: [] });
    this.queue.push({ kind: 'edit', action: entry.action, subject: entry.subject, patch });
  }

  undo(): HistoryEntry | null {
    const entry = this.state.undo.at(-1);
    if (!entry || !this.patch(entry.inverse)) return null;
    this.set({ undo: this.state.undo.slice(0, -1), redo: [...this.state.redo, entry] });
    this.queue.push({ kind: 'undo' });
    return entry;
  }

  redo(): HistoryEntry | null {
    const entry = this.state.redo.at(-1);
    if (!entry || !this.patch(entry.patch)) return null;
    this.set({ redo: this.state.redo.slice(0, -1), undo: [...this.state.undo, entry] });
    this.queue.push({ kind: 'redo' });
    return entry;
  }

  private patch(patch: Patch): boolean {
    const after = applyScenePatch(this.state.scene, patch);
    if (!after.ok) {
      this.queue.end('refused');
      return false;
    }
    const selection = this.state.selection.filter((id) =>
      after.value.planes.some((plane) => plane.id === id),
    );
    const solo = this.state.solo.filter((id) => after.value.planes.some((plane) => plane.id === id));
    const selectedKeys = this.state.selectedKeys.filter(({ channel, frame }) =>
      channelAt(after.value, channelRef(channel))?.keys.some((key) => key.frame === frame),
    );
    const frame = Math.min(this.state.frame, after.value.lengthFrames);
    const there = (id: PlaneId | undefined) => after.value.planes.some((plane) => plane.id === id);
    if (!there(this.state.figure?.planeId)) this.set({ figure: null });
    if (!there(this.state.measuring?.planeId)) this.set({ measuring: null });
    this.set({ scene: after.value, preview: null, selection, solo, selectedKeys, frame });
    return true;
  }

  select(selection: readonly PlaneId[]): void {
    this.set({ selection });
  }

  /** Shows only these planes in the picture; none means all. */
  setSolo(solo: readonly PlaneId[]): void {
    this.set({ solo });
  }

  setOnion(onion: PlaneId | null): void {
    this.set({ onion });
  }

  /** Starts, changes or (null) stops the sway. */
  setRock(rock: Rock | null): void {
    if (rock === this.state.rock) return;
    this.set({ rock });
    if (!rock) this.swayed.setState({ pose: null });
  }

  setMeasuring(measuring: Measuring | null): void {
    this.set({ measuring });
  }

  setFigure(figure: StandInFigure | null): void {
    this.set({ figure });
  }

  selectKeys(selectedKeys: readonly SelectedKey[]): void {
    this.set({ selectedKeys });
  }

  soloChannel(soloChannels: readonly ChannelId[]): void {
    this.set({ soloChannels });
  }

  setWipe(wipe: Wipe | null): void {
    this.set({ wipe });
  }

  goTo(frame: number): void {
    this.set({ frame: Math.min(this.state.scene.lengthFrames, Math.max(1, Math.round(frame))) });
  }

  setPlaying(playing: boolean, dropped = this.state.dropped): void {
    if (playing) this.setRock(null);
    this.set({ playing, dropped });
  }

  /** Another window has moved the shot on. */
  markStale(): void {
    this.queue.end('stale');
  }

  close(): void {
    this.queue.close();
  }
}
