import { type ImportedNode, type ImportedPainting, paintedLayers } from '@keen-ridge/core/art/landing';
import {
  applyNewVersion,
  cutStepsOf,
  cutsToMake,
  type LayerMatch,
  type Likeness,
  matchLayers,
  onCanvas,
  type PaintedLayer,
  planeFromLayer,
} from '@keen-ridge/core/edits/art';
import { addPlanes, uniqueTidyNames } from '@keen-ridge/core/edits/planes';
import { type PlaneId, planeIdSchema, type Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { reasonOf } from '@keen-ridge/core/units';
import { toast } from 'sonner';
import { mergeArt } from '../api/art.ts';
import type { Session } from '../session/session.ts';
import { formatNumber } from '../ui/format.ts';
import { bringInWords as say } from '../words/bring-in.ts';
import { type MadeAgain, makeCutsAgain } from './cut-again.ts';
import {
  closeImport,
  filesOf,
  isOver,
  type LookedAt,
  planesFrom,
  setImport,
  useImport,
} from './import-store.ts';

/** The nodes that land: what is left out is gone. */
function keptNodes(nodes: readonly ImportedNode[], left: ReadonlySet<string>): ImportedNode[] {
  return nodes.flatMap((node): ImportedNode[] => {
    if (left.has(node.key)) return [];
    if (node.kind === 'layer') return [node];
    const children = keptNodes(node.children, left);
    return children.length === 0 ? [] : [{ ...node, children }];
  });
}

/** Layers with the tiny picture of each; merged groups are layers by then. */
export interface LandingLayers {
  readonly layers: readonly PaintedLayer[];
  readonly likenesses: readonly (Likeness | null)[];
}

const likenessesOf = (nodes: readonly ImportedNode[]): Likeness[] =>
  nodes.flatMap((node) => (node.kind === 'group' ? likenessesOf(node.children) : [node.likeness]));

/** What would land of a painting without merging: for showing what will happen. */
export function landingLayers({ painting, left }: LookedAt, rate: Scene['rate']): LandingLayers {
  const nodes = keptNodes(painting.nodes, left);
  return { layers: paintedLayers({ ...painting, nodes }, rate), likenesses: likenessesOf(nodes) };
}

/** Replaces every group that becomes one plane by one layer, merged on the server. */
async function mergedNodes(
  painting: ImportedPainting,
  nodes: readonly ImportedNode[],
  merged: ReadonlySet<string>,
): Promise<ImportedNode[]> {
  return Promise.all(
    nodes.map(async (node): Promise<ImportedNode> => {
      if (node.kind === 'layer') return node;
      if (!merged.has(node.key))
        return { ...node, children: await mergedNodes(painting, node.children, merged) };
      const inside = paintedLayers({ ...painting, nodes: node.children }, { num: 24, den: 1 });
      const shown = inside.filter((layer) => !layer.hidden);
      const layers = (shown.length > 0 ? shown : inside).map(({ art, xPx, yPx, opacity, mode }) => {
        return { artId: art.id, xPx, yPx, opacity, ...(mode ? { mode } : {}) };
      });
      const { art, xPx, yPx, likeness } = await mergeArt({ layers });
      const { key, name, opacity, hidden } = node;
      return { kind: 'layer', key, name, opacity, hidden, art, likeness, xPx, yPx, frames: null };
    }),
  );
}

/** Until they are merged as they land, the largest layer of a painted guide stands for all of its paint. */
function largestOf(layers: readonly PaintedLayer[]): number {
  const area = ({ art }: PaintedLayer) => art.widthPx * art.heightPx;
  return layers.reduce((most, layer, i) => (area(layer) > area(layers[most]!) ? i : most), 0);
}

/** The matches of a changed painting with the planes of the shot that came from it. */
export function versionMatches(session: Session, looked: LookedAt, landing: LandingLayers): LayerMatch[] {
  const { planeLikenesses } = useImport.getState();
  if (looked.guide) {
    const { planeId } = looked.guide;
    return [{ kind: 'same-name', planeId, layerIndex: largestOf(landing.layers) }];
  }
  return matchLayers(planesFrom(session, filesOf(looked)), landing.layers, {
    layerLikenesses: landing.likenesses,
    planeLikenesses,
  });
}

const newId = (): PlaneId => planeIdSchema.parse(crypto.randomUUID());

const tidied = (layers: readonly PaintedLayer[], tidy: boolean): readonly PaintedLayer[] => {
  if (!tidy) return layers;
  const names = uniqueTidyNames(layers.map((layer) => layer.name));
  return layers.map((layer, i) => ({ ...layer, name: names[i] ?? layer.name }));
};

/** The scene that a painting lands in: a painted guide counts its px from where the art lay on it. */
export const sceneFor = (scene: Scene, { painting, guide }: LookedAt): Scene =>
  guide ? onCanvas(scene, guide.planeId, painting.file, guide.place) : scene;

/** A painting that lands: new planes, or the next version of planes that are there, with their cuts made again. */
interface Landing {
  readonly looked: LookedAt;
  readonly landing: LandingLayers;
  readonly matches: readonly LayerMatch[] | null;
  readonly cuts: readonly MadeAgain[];
}

async function landingOf(session: Session, looked: LookedAt, run: AbortController): Promise<Landing> {
  const kept = keptNodes(looked.painting.nodes, looked.left);
  const nodes = await mergedNodes(looked.painting, kept, looked.merged);
  const scene = sceneFor(session.state.scene, looked);
  const layers = paintedLayers({ ...looked.painting, nodes }, scene.rate);
  const landing = { layers, likenesses: likenessesOf(nodes) };
  if (!looked.asVersion) return { looked, landing, matches: null, cuts: [] };
  const matches = versionMatches(session, looked, landing);
  const onProgress = (share: number) => {
    if (!isOver(run)) setImport({ landed: share });
  };
  const cuts = await makeCutsAgain(cutsToMake(scene, layers, matches), layers, {
    signal: run.signal,
    onProgress,
  });
  return { looked, landing, matches, cuts };
}

/** Puts what was looked at on the stage, as one edit: first painting on top, each layer in its order and place. */
export async function land(session: Session): Promise<void> {
  const { paintings, place, tidy, removeLost, run } = useImport.getState();
  if (!run) return;
  setImport({ phase: 'landing', landed: null, fault: null });
  try {
    const landings: Landing[] = [];
    for (const looked of paintings) landings.push(await landingOf(session, looked, run));
    if (isOver(run)) return;
    let scene = session.state.scene;
    let versions = 0;
    const fresh = landings.flatMap(({ looked, landing: { layers }, matches, cuts }) => {
      if (matches) {
        scene = applyNewVersion(sceneFor(scene, looked), { layers, matches, idOf: newId, removeLost, cuts });
        versions += 1;
        return [];
      }
      return tidied(layers, tidy).map((layer) => planeFromLayer(newId(), layer, scene.frame, place));
    });
    scene = addPlanes(scene, fresh);
    const subject =
      versions > 0
        ? (paintings[0]?.painting.file ?? '')
        : fresh.length === 1
          ? (fresh[0]?.name ?? '')
          : `${fresh.length} planes`;
    session.commit(versions > 0 ? 'new-version' : 'add-planes', subject, scene);
    session.select([]);
    closeImport();
    sayChangedOutlines(
      session,
      landings.flatMap(({ cuts }) => cuts),
    );
  } catch (error) {
    if (isOver(run)) return;
    setImport({ phase: 'look', fault: reasonOf(error) });
  }
}

/** Names the cuts whose outline runs through paint that has changed: there it may cut through something now. */
function sayChangedOutlines(session: Session, cuts: readonly MadeAgain[]): void {
  for (const { result, change } of cuts) {
    if (!change) continue;
    const piece = planesOf(session.state.scene).find((plane) => {
      const on = cutStepsOf(plane).at(-1);
      return on?.cutId === result.cutId && on.part === 'taken';
    });
    const { x0, y0, x1, y1 } = change.box;
    toast.warning(
      say.paintHasChangedUnder(
        piece?.name ?? say.aPiece,
        formatNumber(change.share * 100, 0),
        `${formatNumber(x0)}, ${formatNumber(y0)}`,
        `${formatNumber(x1)}, ${formatNumber(y1)}`,
      ),
      { duration: 30_000 },
    );
  }
}
