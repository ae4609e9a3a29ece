import { LARGEST_BODY_BYTES, type Shot } from '@keen-ridge/core/contract';
import { isEnough, type Present } from '@keen-ridge/core/contract/people';
import { withOwnCopies } from '@keen-ridge/core/edits/sets';
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
import type { CameraPose, Rock } from '@keen-ridge/core/stage';
import { type ChannelId, stageFault } from '@keen-ridge/core/staging';
import { checkedAfter } from '@keen-ridge/core/staging/check';
import { cleanName, type Result } from '@keen-ridge/core/units';
import { createStore, type StoreApi } from 'zustand';
import type { Gesture, OpenGesture } from './gesture.ts';
import type { OpenedShot } from './open-shot.ts';
import { type Lost, type SaveState, ShotLink, type ShotServer } from './shot-link.ts';
import {
  type ChoiceState,
  type Measuring,
  NOTHING_CHOSEN,
  type SelectedKey,
  type StandInFigure,
  settled,
} from './state/choice.ts';
import type { DocumentState, SessionFault } from './state/document.ts';
import { FIRST_VIEW, type Preroll, type ViewState, type Wipe } from './state/view.ts';
import { forgetUnsent } from './unsent.ts';

export type SessionState = DocumentState & ChoiceState & ViewState;

/** What a request holds beside the patch of an edit is small. */
const LARGEST_PATCH_BYTES = LARGEST_BODY_BYTES - 2 ** 20;
const bytesOf = (patch: Patch): number => new TextEncoder().encode(JSON.stringify(patch)).length;

const newId = (): string => crypto.randomUUID();

/** What a gesture has made, on top of what others have done to the scene since; null where it no longer fits. */
function onTop(now: Scene, { base, made }: OpenGesture): Scene | null {
  if (base === now) return made;
  const landed = applyPatch(now, differenceBetween(base, made));
  return landed.ok ? landed.value.scene : null;
}

/**
 * One open shot: its document, what is chosen of it, and how it is looked at. It says nothing by itself: faults are
 * answered by `faults`, for the page to say.
 */
export class Session {
  readonly shot: Shot;
  readonly store: StoreApi<SessionState>;
  /** The camera as it sways just now, apart from the rest: it changes every frame of the display. */
  readonly swayed: StoreApi<{ readonly pose: CameraPose | null }> = createStore(() => ({ pose: null }));
  /** Rendered frames that wait to be played, apart from the rest: they come one by one. */
  readonly preroll: StoreApi<Preroll> = createStore(() => ({ frames: new Set<number>(), wanted: null }));
  /** The frame that the picture last showed at full quality, for playing every frame; whether any had all of its art. */
  readonly drawn: StoreApi<{ readonly frame: number; readonly whole: boolean }> = createStore(() => ({
    frame: 0,
    whole: false,
  }));
  /** In which windows the shot is open, this one among them. */
  readonly present: StoreApi<{ readonly windows: readonly Present[] }> = createStore(() => ({ windows: [] }));
  /** What could not be done, as it happens. */
  readonly faults: StoreApi<{ readonly last: SessionFault | null }> = createStore(() => ({ last: null }));
  private readonly link: ShotLink;
  private gesture: OpenGesture | null = null;
  private closed = false;

  constructor(
    { shot, replica, lost = [], names = [] }: Pick<OpenedShot, 'shot' | 'replica'> & Partial<OpenedShot>,
    server?: ShotServer,
  ) {
    this.shot = shot;
    this.store = createStore<SessionState>(() => ({
      ...NOTHING_CHOSEN,
      ...FIRST_VIEW,
      scene: sceneOfReplica(replica),
      preview: null,
      ...stacksOfReplica(replica),
      saveState: 'saved',
      saveFault: null,
      lost,
    }));
    const events = {
      onReplica: (next: Replica) => this.follow(next),
      onSaveState: (saveState: SaveState, saveFault: string | null) => this.set({ saveState, saveFault }),
      onPresent: (windows: readonly Present[]) => this.present.setState({ windows }),
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

  private fault(last: SessionFault): void {
    this.faults.setState({ last });
  }

  /** Begins a change that is shown while it is made; one that was under way is dropped. */
  begin(action: EditAction, subject: string, onDrop: () => void = () => {}): Gesture {
    this.drop();
    if (!this.mayChange) this.fault({ kind: 'only-looking' });
    const { scene } = this.state;
    let mine: OpenGesture = { action, subject, base: scene, made: scene, onDrop };
    this.gesture = this.mayChange ? mine : null;
    const isOn = () => this.gesture === mine;
    return {
      update: (change) => {
        if (!isOn()) return;
        mine = { ...mine, made: change(mine.base) };
        this.gesture = mine;
        this.showGesture(mine);
      },
      keep: () => {
        if (!isOn()) return;
        const scene = onTop(this.state.scene, mine);
        this.gesture = null;
        if (scene) this.push(action, subject, scene);
        else this.set({ preview: null });
      },
      drop: () => {
        if (isOn()) this.drop();
      },
    };
  }

  private showGesture(gesture: OpenGesture): void {
    const preview = onTop(this.state.scene, gesture);
    if (!preview) {
      this.giveUp(gesture);
      return;
    }
    this.restCamera(preview);
    this.set({ preview: preview === this.state.scene ? null : preview });
  }

  /** Gives up the gesture that is under way; whether one was. */
  drop(): boolean {
    const { gesture } = this;
    if (!gesture) return false;
    this.gesture = null;
    this.set({ preview: null });
    gesture.onDrop();
    return true;
  }

  /** The camera no longer sways once it is moved. */
  private restCamera(scene: Scene): void {
    const { camera, move } = this.state.scene;
    if (scene.camera !== camera || scene.move !== move) this.setRock(null);
  }

  /**
   * Keeps a scene, made of the one that is kept now, as one edit, and says its id; a gesture that is under way is
   * dropped. Null where it changes nothing, or cannot be kept, which `faults` tells.
   */
  commit(action: EditAction, subject: string, scene: Scene): string | null {
    this.drop();
    return this.push(action, subject, scene);
  }

  /** Whether whoever has the shot open may change it. */
  get mayChange(): boolean {
    return isEnough(this.shot.role, 'work');
  }

  private push(action: EditAction, subject: string, made: Scene): string | null {
    if (!this.mayChange) {
      this.set({ preview: null });
      this.fault({ kind: 'only-looking' });
      return null;
    }
    // What follows a set and is changed here is this shot's own from now on.
    const scene = withOwnCopies(this.state.scene, made);
    const fault = stageFault(scene);
    if (fault) {
      this.set({ preview: null });
      this.fault({ kind: 'unstageable', why: fault });
      return null;
    }
    // As the server will read it: what it would refuse is said now, not told as lost later.
    const read = checkedAfter(this.state.scene, scene);
    if (!read.ok) {
      this.set({ preview: null });
      this.fault({ kind: 'no-scene', why: read.error.detail });
      return null;
    }
    const edit = { action, subject: cleanName(subject, LIMITS.nameLength.max), scene };
    const next = withEdit(this.link.replica, { ...edit, opId: newId(), at: new Date().toISOString() });
    const op = next?.pending.at(-1);
    if (!next || !op) {
      this.set({ preview: null });
      return null;
    }
    if (bytesOf(op.patch) > LARGEST_PATCH_BYTES) {
      this.set({ preview: null });
      this.fault({ kind: 'too-large', mostMebibytes: Math.floor(LARGEST_PATCH_BYTES / 2 ** 20) });
      return null;
    }
    this.restCamera(scene);
    this.link.push(next);
    return op.entry.id;
  }

  /** Takes back the last edit, or the one of that id; what is under way is given up first, alone. */
  undo(editId?: string): HistoryEntry | null {
    return this.drop() ? null : this.turn('undo', withUndo(this.link.replica, newId(), editId));
  }

  redo(): HistoryEntry | null {
    return this.drop() ? null : this.turn('redo', withRedo(this.link.replica, newId()));
  }

  private turn(turn: 'undo' | 'redo', turned: Result<Replica, TakeBackFault>): HistoryEntry | null {
    if (turned.ok) {
      this.link.push(turned.value);
      return turned.value.pending.at(-1)!.entry;
    }
    const { error } = turned;
    if (error.code === 'nothing') return null;
    const by = error.code === 'conflict' ? this.link.whoTouched(error.paths) : null;
    this.fault({ kind: 'taken-over', turn, entry: error.entry, by: by?.author.name ?? null });
    return null;
  }

  /** Takes on the scene and the stacks of a replica; choices of what is gone go with it. */
  private follow(replica: Replica): void {
    const scene = sceneOfReplica(replica);
    if (scene === this.state.scene) {
      this.set(stacksOfReplica(replica));
      return;
    }
    const { gesture } = this;
    const preview = gesture && onTop(scene, gesture);
    this.set({
      ...stacksOfReplica(replica),
      ...settled(this.state, preview ?? scene),
      scene,
      preview,
      frame: Math.min(this.state.frame, scene.lengthFrames),
    });
    if (gesture && !preview) this.giveUp(gesture);
  }

  /** Somebody else has changed what the gesture changes. */
  private giveUp({ action }: OpenGesture): void {
    this.fault({ kind: 'met', action });
    this.drop();
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

  setPinning(pinning: boolean): void {
    this.set({ pinning });
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

  /** The shot was left. What comes late is kept all the same, and should be told. */
  get isClosed(): boolean {
    return this.closed;
  }

  close(): void {
    this.closed = true;
    this.drop();
    this.link.close();
  }
}
