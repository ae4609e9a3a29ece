import { type ImportedNode, type ImportedPainting, joinSequences } from '@keen-ridge/core/art/landing';
import { AS_PAINTED, type Likeness, type PaintingPlace } from '@keen-ridge/core/edits/art';
import type { PlaneId } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { shownArts } from '@keen-ridge/core/staging/content';
import { create } from 'zustand';
import { changeArt, readLikenesses } from '../api/art.ts';
import { type UploadProgress, uploadArt } from '../api/upload.ts';
import type { Session } from '../session/session.ts';

export type FileState =
  | { readonly kind: 'waiting' }
  | UploadProgress
  | { readonly kind: 'read' }
  | { readonly kind: 'failed'; readonly reason: string };

export interface ImportedFile {
  readonly name: string;
  readonly state: FileState;
}

/** A painting that was read, and what the artist wants of it before it lands. */
export interface LookedAt {
  readonly painting: ImportedPainting;
  readonly source: File;
  /** Keys of groups that become one plane. */
  readonly merged: ReadonlySet<string>;
  /** Keys of nodes that are left out. */
  readonly left: ReadonlySet<string>;
  /** Alpha as the artist says it is, where the file does not say. */
  readonly premultiplied: boolean;
  /** It comes in as the next version of what came from this file before. */
  readonly asVersion: boolean;
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
  readonly fault: string | null;
  readonly abort: AbortController | null;
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
  fault: null,
  abort: null,
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

/** Planes of the shot that came from a file of this name. */
export const planesFrom = (session: Session, file: string) =>
  planesOf(session.state.scene).filter((plane) => plane.origin?.file === file);

/** Sends files one after another and opens the look at what was read. Cancelled: nothing changes. */
export async function importFiles(session: Session, files: readonly File[]): Promise<void> {
  if (useImport.getState().phase !== 'closed' || files.length === 0) return;
  const abort = new AbortController();
  const collator = new Intl.Collator('en', { numeric: true });
  const sorted = [...files].sort((p, q) => collator.compare(p.name, q.name));
  const waiting = sorted.map(({ name }): ImportedFile => ({ name, state: { kind: 'waiting' } }));
  useImport.setState({ ...CLOSED, files: waiting, phase: 'reading', abort });
  const read: { painting: ImportedPainting; source: File }[] = [];
  for (const [index, source] of sorted.entries()) {
    try {
      const onProgress = (progress: UploadProgress) => setFile(index, progress);
      const art = await uploadArt(source, { onProgress, signal: abort.signal });
      read.push(...art.paintings.map((painting) => ({ painting, source })));
      setFile(index, { kind: 'read' });
    } catch (error) {
      if (abort.signal.aborted) return;
      setFile(index, { kind: 'failed', reason: error instanceof Error ? error.message : String(error) });
    }
  }
  const planeLikenesses = await looksOfPlanes(session);
  if (abort.signal.aborted) return;
  const joined = joinSequences(
    read.map(({ painting }) => painting),
    session.state.scene.rate,
  );
  const paintings = joined.map((painting): LookedAt => {
    const source = read.find((r) => r.painting.file === painting.file)?.source ?? (sorted[0] as File);
    const asVersion = planesFrom(session, painting.file).length > 0;
    return { painting, source, merged: new Set(), left: new Set(), premultiplied: false, asVersion };
  });
  useImport.setState({ paintings, planeLikenesses, phase: 'look', abort: null });
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

/** Renders a drawing anew at another scale. */
export async function rescaleDrawing(index: number, svgScale: number): Promise<void> {
  const looked = useImport.getState().paintings[index];
  if (!looked) return;
  try {
    const { signal } = new AbortController();
    const art = await uploadArt(looked.source, { svgScale, signal, onProgress: () => {} });
    const painting = art.paintings[0];
    if (painting) changePainting(index, { painting });
    setImport({ fault: null });
  } catch (error) {
    setImport({ fault: error instanceof Error ? error.message : String(error) });
  }
}

/** Takes the pixels of a painting as multiplied by their alpha, or back as they came. */
export async function setPremultiplied(index: number, premultiplied: boolean): Promise<void> {
  const looked = useImport.getState().paintings[index];
  const [layer] = looked?.painting.nodes ?? [];
  if (!looked || layer?.kind !== 'layer') return;
  try {
    if (premultiplied) {
      const { art } = await changeArt(layer.art.id, { kind: 'straighten' });
      const painting = { ...looked.painting, nodes: [{ ...layer, art }] };
      changePainting(index, { painting, premultiplied });
    } else {
      const { signal } = new AbortController();
      const art = await uploadArt(looked.source, { signal, onProgress: () => {} });
      const painting = art.paintings.find(({ file }) => file === looked.painting.file);
      if (painting) changePainting(index, { painting, premultiplied });
    }
  } catch (error) {
    setImport({ fault: error instanceof Error ? error.message : String(error) });
  }
}

export function closeImport(): void {
  useImport.getState().abort?.abort(new DOMException('Cancelled', 'AbortError'));
  useImport.setState(CLOSED);
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
