import {
  type ImportedNode,
  type ImportedPainting,
  type PictureSet,
  paintingOfSet,
  partOfFilm,
  pictureSets,
  type SetKind,
} from '@keen-ridge/core/art/landing';
import { AS_PAINTED, type Likeness, type PaintingPlace } from '@keen-ridge/core/edits/art';
import { GUIDE_LAYER, guideOfFile, isGuideName } from '@keen-ridge/core/export/guides';
import type { PlaneId, Scene } from '@keen-ridge/core/scene';
import { planeOf, planesOf } from '@keen-ridge/core/scene/records';
import { shownArts } from '@keen-ridge/core/staging/content';
import { reasonOf } from '@keen-ridge/core/units';
import { create } from 'zustand';
import { changeArt, readLikenesses } from '../api/art.ts';
import { type UploadProgress, uploadArt } from '../api/upload.ts';
import type { Session } from '../session/session.ts';
import { bringInWords as say } from '../words/bring-in.ts';

export type FileState =
  | { readonly kind: 'waiting' }
  | UploadProgress
  | { readonly kind: 'read' }
  | { readonly kind: 'failed'; readonly reason: string };

export interface ImportedFile {
  readonly name: string;
  readonly state: FileState;
}

/** Separate pictures that are one painting, as the artist has put them in order. */
export interface LookedAtSet extends Pick<PictureSet, 'name' | 'members'> {
  readonly kind: SetKind;
}

/** A painting that was read, and what the artist wants of it before it lands. */
export interface LookedAt {
  readonly painting: ImportedPainting;
  /** Where it is made of separate pictures. */
  readonly set: LookedAtSet | null;
  readonly source: File;
  /** Of what moves only a part comes in, its first and last frame counted from 1; null: all of it. */
  readonly part: { readonly whole: ImportedPainting; readonly first: number; readonly last: number } | null;
  /** Keys of groups that become one plane. */
  readonly merged: ReadonlySet<string>;
  /** Keys of nodes that are left out. */
  readonly left: ReadonlySet<string>;
  /** Alpha as the artist says it is, where the file does not say. */
  readonly premultiplied: boolean;
  /** It comes in as the next version of what came from this file before. */
  readonly asVersion: boolean;
  /** The plane that it is the painted guide of, and where on its canvas the art as it was lies. */
  readonly guide: ReturnType<typeof guideOfFile>;
}

export type Phase = 'closed' | 'reading' | 'look' | 'landing';

interface ImportState {
  readonly phase: Phase;
  readonly files: readonly ImportedFile[];
  readonly paintings: readonly LookedAt[];
  readonly chosen: number;
  readonly place: PaintingPlace;
  readonly tidy: boolean;
  readonly removeLost: boolean;
  /** Tiny pictures of the planes that are there, for finding layers whose names have changed. */
  readonly planeLikenesses: ReadonlyMap<PlaneId, Likeness>;
  /** Share of the cuts that have been made again, while it lands; null before there are any. */
  readonly landed: number | null;
  readonly fault: string | null;
  /** What is brought in now, from the first file to the landing: aborted when it is cancelled or the shot is left. */
  readonly run: AbortController | null;
}

const CLOSED: ImportState = {
  phase: 'closed',
  files: [],
  paintings: [],
  chosen: 0,
  place: AS_PAINTED,
  tidy: false,
  removeLost: false,
  planeLikenesses: new Map(),
  landed: null,
  fault: null,
  run: null,
};
export const useImport = create<ImportState>(() => CLOSED);
export const setImport = (part: Partial<ImportState>): void => useImport.setState(part);

const setFile = (index: number, state: FileState): void =>
  useImport.setState(({ files }) => ({
    files: files.map((file, i) => (i === index ? { ...file, state } : file)),
  }));

export const changePainting = (index: number, part: Partial<LookedAt>): void =>
  useImport.setState(({ paintings }) => ({
    paintings: paintings.map((painting, i) => (i === index ? { ...painting, ...part } : painting)),
  }));

/** The files that a painting was read from. */
export const filesOf = ({ painting, set }: Pick<LookedAt, 'painting' | 'set'>): readonly string[] =>
  set ? set.members.map(({ file }) => file) : [painting.file];

/** Planes of the shot that came from files of these names. */
export const planesFrom = (session: Session, files: readonly string[]) =>
  planesOf(session.state.scene).filter((plane) => plane.origin && files.includes(plane.origin.file));

/** Whether what was begun as `run` has been cancelled, or given way to something else. */
export const isOver = (run: AbortController | null): boolean =>
  run === null || run.signal.aborted || useImport.getState().run !== run;

/** Sends files one after another and opens the look at what was read. Cancelled, or the shot left: nothing changes. */
export async function importFiles(session: Session, files: readonly File[]): Promise<void> {
  if (useImport.getState().phase !== 'closed' || files.length === 0 || session.isClosed) return;
  const run = new AbortController();
  const collator = new Intl.Collator('en', { numeric: true });
  const sorted = [...files].sort((p, q) => collator.compare(p.name, q.name));
  const waiting = sorted.map(({ name }): ImportedFile => ({ name, state: { kind: 'waiting' } }));
  useImport.setState({ ...CLOSED, files: waiting, phase: 'reading', run });
  const read: { painting: ImportedPainting; source: File }[] = [];
  for (const [index, source] of sorted.entries()) {
    try {
      const onProgress = (progress: UploadProgress) => {
        if (!isOver(run)) setFile(index, progress);
      };
      const art = await uploadArt(source, { onProgress, signal: run.signal });
      if (isOver(run)) return;
      read.push(...art.paintings.map((painting) => ({ painting, source })));
      setFile(index, { kind: 'read' });
    } catch (error) {
      if (isOver(run)) return;
      setFile(index, { kind: 'failed', reason: reasonOf(error) });
    }
  }
  const planeLikenesses = await looksOfPlanes(session);
  if (isOver(run)) return;
  const { scene } = session.state;
  const { rate } = scene;
  const guides: LookedAt[] = [];
  const others: ImportedPainting[] = [];
  for (const { painting, source } of read) {
    const guide = guideLookedAt(scene, painting, source);
    if (guide) guides.push(guide);
    else others.push(isGuideName(painting.file) ? withNote(painting, say.staleGuide) : painting);
  }
  const paintings = pictureSets(others).map((one): LookedAt => {
    const set = one.kind === 'set' ? one.set : null;
    const painting = one.kind === 'set' ? paintingOfSet(one.set, one.set.kind, rate) : one.painting;
    const [file] = filesOf({ painting, set });
    const source = read.find((r) => r.painting.file === file)?.source ?? (sorted[0] as File);
    const asVersion = planesFrom(session, filesOf({ painting, set })).length > 0;
    return {
      painting,
      set,
      source,
      part: null,
      merged: new Set(),
      left: new Set(),
      premultiplied: false,
      asVersion,
      guide: null,
    };
  });
  useImport.setState({ paintings: [...guides, ...paintings], planeLikenesses, phase: 'look' });
}

const withNote = (painting: ImportedPainting, note: string): ImportedPainting => ({
  ...painting,
  notKept: [...painting.notKept, note],
});

/** The one node that all paint of a guide's document becomes. */
const GUIDE_NODE = 'guide';

/** A painted guide: its paint as one layer, without what was there to look at; null for every other file. */
function guideLookedAt(scene: Scene, painting: ImportedPainting, source: File): LookedAt | null {
  const guide = guideOfFile(scene, painting.file);
  const plane = guide && planeOf(scene, guide.planeId);
  if (!guide || !plane) return null;
  // Once it has landed it is a painting like any other, that has a next version.
  const asBefore = plane.origin?.file === painting.file;
  const paint = painting.nodes.filter(({ name }) => !name.startsWith(GUIDE_LAYER));
  const { name } = plane;
  const nodes: ImportedNode[] =
    paint.length > 1
      ? [{ kind: 'group', key: GUIDE_NODE, name, opacity: 1, hidden: false, children: paint }]
      : paint.map((node) => ({ ...node, name }));
  return {
    painting: { ...painting, nodes: nodes.length > 0 ? nodes : painting.nodes },
    set: null,
    source,
    part: null,
    merged: new Set(nodes.flatMap((node) => (node.kind === 'group' ? [node.key] : []))),
    left: new Set(),
    premultiplied: false,
    asVersion: true,
    guide: asBefore ? null : guide,
  };
}

/** Takes only the frames from `first` to `last` of what moves. */
export function changePart(index: number, first: number, last: number): void {
  const looked = useImport.getState().paintings[index];
  if (!looked) return;
  const whole = looked.part?.whole ?? looked.painting;
  changePainting(index, {
    painting: partOfFilm(whole, first, last),
    part: { whole, first, last: Math.max(first, last) },
  });
}

/** Takes the pictures of a set in another order, or as something else. */
export function changeSet(session: Session, index: number, part: Partial<LookedAtSet>): void {
  const set = useImport.getState().paintings[index]?.set;
  if (!set) return;
  const next = { ...set, ...part };
  changePainting(index, { set: next, painting: paintingOfSet(next, next.kind, session.state.scene.rate) });
}

async function looksOfPlanes(session: Session): Promise<ReadonlyMap<PlaneId, Likeness>> {
  const first = planesOf(session.state.scene).flatMap((plane) => {
    const [art] = shownArts(plane.content);
    return art ? [{ id: plane.id, artId: art.id }] : [];
  });
  if (first.length === 0) return new Map();
  try {
    const { likenesses } = await readLikenesses(first.map(({ artId }) => artId));
    return new Map(
      first.flatMap(({ id, artId }) => {
        const likeness = likenesses[artId];
        return likeness ? [[id, likeness] as const] : [];
      }),
    );
  } catch (error) {
    // Names alone must do, and the dialog shows what they found.
    console.warn('No likenesses of the planes', error);
    return new Map();
  }
}

/** What reads a painting anew; a newer one gives up the one before. */
let again: AbortController | null = null;

/** Changes a painting by what the server makes of it anew, unless something newer was asked meanwhile. */
async function readAgain(
  index: number,
  read: (looked: LookedAt, signal: AbortSignal) => Promise<Partial<LookedAt> | null>,
): Promise<void> {
  const { run, paintings } = useImport.getState();
  const looked = paintings[index];
  if (!looked || isOver(run)) return;
  again?.abort(new DOMException('Something newer was asked', 'AbortError'));
  const mine = new AbortController();
  again = mine;
  const stop = () => mine.abort(run?.signal.reason);
  run?.signal.addEventListener('abort', stop, { once: true });
  const superseded = () => mine.signal.aborted || again !== mine || isOver(run);
  try {
    const part = await read(looked, mine.signal);
    if (superseded()) return;
    if (part) changePainting(index, part);
    setImport({ fault: null });
  } catch (error) {
    if (!superseded()) setImport({ fault: reasonOf(error) });
  } finally {
    run?.signal.removeEventListener('abort', stop);
  }
}

const unheard = { onProgress: () => {} };

/** Renders a drawing anew at another scale. */
export const rescaleDrawing = (index: number, svgScale: number): Promise<void> =>
  readAgain(index, async ({ source }, signal) => {
    const [painting] = (await uploadArt(source, { svgScale, signal, ...unheard })).paintings;
    return painting ? { painting } : null;
  });

/** Takes the pixels of a painting as multiplied by their alpha, or back as they came. */
export const setPremultiplied = (index: number, premultiplied: boolean): Promise<void> =>
  readAgain(index, async ({ painting, source }, signal) => {
    const [layer] = painting.nodes;
    if (layer?.kind !== 'layer') return null;
    if (premultiplied) {
      const { art } = await changeArt(layer.art.id, { kind: 'straighten' });
      return { painting: { ...painting, nodes: [{ ...layer, art }] }, premultiplied };
    }
    const art = await uploadArt(source, { signal, ...unheard });
    const whole = art.paintings.find(({ file }) => file === painting.file);
    return whole ? { painting: whole, premultiplied } : null;
  });

/** Closes what is brought in, whatever of it is under way: nothing of it lands. */
export function closeImport(): void {
  const { run } = useImport.getState();
  useImport.setState(CLOSED);
  run?.abort(new DOMException('Cancelled', 'AbortError'));
}

export const toggled = (set: ReadonlySet<string>, key: string): ReadonlySet<string> => {
  const next = new Set(set);
  if (!next.delete(key)) next.add(key);
  return next;
};

/** Keys of all groups, at any depth. */
export const groupKeys = (nodes: readonly ImportedNode[]): string[] =>
  nodes.flatMap((node) => (node.kind === 'group' ? [node.key, ...groupKeys(node.children)] : []));

export const layerCount = (nodes: readonly ImportedNode[]): number =>
  nodes.reduce((sum, node) => sum + (node.kind === 'group' ? layerCount(node.children) : 1), 0);
