import { LARGEST_BODY_BYTES, type Shot } from '@keen-ridge/core/contract';
import type { Point } from '@keen-ridge/core/geometry';
import {
  type Author,
  applyPatch,
  differenceBetween,
  type EditAction,
  type HistoryEntry,
  type Patch,
  type Replica,
  sceneOfReplica,
  stacksOfReplica,
  type TakeBackFault,
  withEdit,
  withRedo,
  withUndo,
} from '@keen-ridge/core/history';
import { LIMITS, type PlaneId, type Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import type { CameraPose, Rock } from '@keen-ridge/core/stage';
import { type ChannelId, channelAt, channelRef, stageFault } from '@keen-ridge/core/staging';
import type { FrameRange } from '@keen-ridge/core/staging/frame';
import { cleanName, type Result } from '@keen-ridge/core/units';
import { toast } from 'sonner';
import { createStore, type StoreApi } from 'zustand';
import { editWords } from './edit-words.ts';
import { madeOf } from './made-of.ts';
import type { OpenedShot } from './open-shot.ts';
import { type Lost, type SaveState, ShotLink, type ShotServer } from './shot-link.ts';
import { forgetUnsent } from './unsent.ts';

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
  /** What the server said, where it has not taken an edit yet. */
  readonly saveFault: string | null;
  /** Edits that could not be kept, until the artist has read of them. */
  readonly lost: readonly Lost[];
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

/** A scene that is only tried, and the one that it was made on. */
interface Tried {
  readonly base: Scene;
  readonly scene: Scene;
}

const newId = (): string => crypto.randomUUID();

/** Those that are still there; the same list where all are, so that nothing is drawn anew for it. */
const kept = <T>(list: readonly T[], there: (item: T) => boolean): readonly T[] =>
  list.every(there) ? list : list.filter(there);

/** What was tried, on top of what others have done to the scene since; null where it no longer fits. */
function onTop(now: Scene, { base, scene }: Tried): Scene | null {
  if (base === now) return scene;
  const landed = applyPatch(now, differenceBetween(base, scene));
  return landed.ok ? landed.value.scene : null;
}

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
  private readonly link: ShotLink;
  private tried: Tried | null = null;
  /** The scene as it was when the pointer went down: what is dragged from there on was made on it. */
  private held: Scene | null = null;

  constructor(
    { shot, replica, lost = [], names = [] }: Pick<OpenedShot, 'shot' | 'replica'> & Partial<OpenedShot>,
    server?: ShotServer,
  ) {
    this.shot = shot;
    this.store = createStore<SessionState>(() => ({
      scene: sceneOfReplica(replica),
      preview: null,
      ...stacksOfReplica(replica),
      saveState: 'saved',
      saveFault: null,
      lost,
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
    const events = {
      onReplica: (next: Replica) => this.follow(next),
      onSaveState: (saveState: SaveState, saveFault: string | null) => this.set({ saveState, saveFault }),
      onLost: (ops: Lost) => this.set({ lost: [...this.state.lost, ops] }),
    };
    this.link = new ShotLink(shot.id, replica, events, server);
    // From here on this window keeps them.
    forgetUnsent(names);
  }

  get state(): SessionState {
    return this.store.getState();
  }

  /** The scene as it is shown now. */
  get shown(): Scene {
    return this.state.preview ?? this.state.scene;
  }

  get unsent(): number {
    return this.link.replica.pending.length;
  }

  private set(part: Partial<SessionState>): void {
    this.store.setState(part);
  }

  setAuthor(author: Author): void {
    this.link.setAuthor(author);
  }

  /** Shows a scene without keeping it; null goes back to what is kept. */
  show(preview: Scene | null): void {
    const { camera, move } = this.state.scene;
    if (preview && (preview.camera !== camera || preview.move !== move)) this.setRock(null);
    this.tried = preview && { base: this.baseOf(preview), scene: preview };
    this.set({ preview: this.tried && onTop(this.state.scene, this.tried) });
  }

  /** The scene that an edit was made of: as it is, or as it was before others changed it during a gesture. */
  private baseOf(made: Scene): Scene {
    const { scene } = this.state;
    return madeOf(made, this.tried?.base ?? this.held ?? scene, scene);
  }

  /** A gesture begins: what is made of the scene until `letGo` is made of it as it is now. */
  hold(): void {
    this.held = this.state.scene;
  }

  letGo(): void {
    this.held = null;
  }

  /** Keeps a scene as one edit. Nothing happens when it changes nothing. */
  commit(action: EditAction, subject: string, made: Scene): void {
    // What is shown stands on top of what others did already.
    const tried = (made === this.state.preview && this.tried) || { base: this.baseOf(made), scene: made };
    this.tried = null;
    const scene = onTop(this.state.scene, tried);
    const fault = scene ? stageFault(scene) : 'Somebody else has changed the same just now';
    if (!scene || fault) {
      this.set({ preview: null });
      toast.error(`${fault}: nothing was changed.`);
      return;
    }
    const { camera, move } = this.state.scene;
    if (scene.camera !== camera || scene.move !== move) this.setRock(null);
    const edit = { action, subject: cleanName(subject, LIMITS.nameLength.max), scene };
    const next = withEdit(this.link.replica, { ...edit, opId: newId(), at: new Date().toISOString() });
    if (!next) {
      this.set({ preview: null });
      return;
    }
    if (bytesOf(next.pending.at(-1)!.patch) > LARGEST_PATCH_BYTES) {
      this.set({ preview: null });
      toast.error(
        `This one edit is larger than the ${Math.floor(LARGEST_PATCH_BYTES / 2 ** 20)} MiB that can be kept at once: nothing was changed. Do it in parts.`,
      );
      return;
    }
    this.held = this.held && scene;
    this.link.push(next);
  }

  undo(): HistoryEntry | null {
    return this.turn('undo', withUndo(this.link.replica, newId()));
  }

  redo(): HistoryEntry | null {
    return this.turn('redo', withRedo(this.link.replica, newId()));
  }

  private turn(kind: 'undo' | 'redo', turned: Result<Replica, TakeBackFault>): HistoryEntry | null {
    if (turned.ok) {
      this.tried = null;
      this.held = this.held && sceneOfReplica(turned.value);
      this.link.push(turned.value);
      return turned.value.pending.at(-1)!.entry;
    }
    const { error } = turned;
    if (error.code === 'nothing') return null;
    const by = error.code === 'conflict' ? this.link.whoTouched(error.paths) : null;
    const who = by?.author.name ?? 'somebody else';
    toast.error(
      `${kind === 'undo' ? 'Undoing' : 'Redoing'} ${editWords(error.entry)} is not possible: ${who} has changed the same since.`,
    );
    return null;
  }

  /** Takes on the scene and the stacks of a replica; choices of what is gone go with it. */
  private follow(replica: Replica): void {
    const scene = sceneOfReplica(replica);
    const preview = this.tried && onTop(scene, this.tried);
    if (scene === this.state.scene) {
      this.set({ ...stacksOfReplica(replica), preview });
      return;
    }
    const there = (id: PlaneId | undefined) => id !== undefined && planeOf(scene, id) !== undefined;
    const keyThere = ({ channel, frame }: SelectedKey) =>
      channelAt(preview ?? scene, channelRef(channel))?.keys.some((key) => key.frame === frame) === true;
    const { selection, solo, selectedKeys, figure, measuring } = this.state;
    this.set({
      ...stacksOfReplica(replica),
      scene,
      preview,
      selection: kept(selection, there),
      solo: kept(solo, there),
      selectedKeys: kept(selectedKeys, keyThere),
      figure: there(figure?.planeId) ? figure : null,
      measuring: there(measuring?.planeId) ? measuring : null,
      frame: Math.min(this.state.frame, scene.lengthFrames),
    });
  }

  /** The artist has read of edits that were lost. */
  forgetLost(): void {
    this.set({ lost: [] });
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

  close(): void {
    this.link.close();
  }
}
