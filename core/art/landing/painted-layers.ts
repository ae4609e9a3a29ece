import type { PaintedLayer } from '../../edits/art/index.ts';
import { type Exposure, LIMITS, type Scene } from '../../scene/index.ts';
import { cleanName } from '../../units/index.ts';
import { holdsOfDelays } from '../index.ts';
import type { ImportedLayer, ImportedNode, ImportedPainting } from './imported-painting.ts';

/** All layers of a painting as planes take them, on top first; groups give their opacity, visibility and name. */
export function paintedLayers(painting: ImportedPainting, rate: Scene['rate']): PaintedLayer[] {
  return layersUnder(painting, painting.nodes, { group: null, opacity: 1, hidden: false }, rate);
}

interface Within {
  readonly group: string | null;
  readonly opacity: number;
  readonly hidden: boolean;
}

function layersUnder(
  painting: ImportedPainting,
  nodes: readonly ImportedNode[],
  within: Within,
  rate: Scene['rate'],
): PaintedLayer[] {
  return nodes.flatMap((node): PaintedLayer[] => {
    const opacity = within.opacity * node.opacity;
    const hidden = within.hidden || node.hidden;
    if (node.kind === 'layer') return [paintedLayer(painting, node, { ...within, opacity, hidden }, rate)];
    const group = cleanName(
      within.group === null ? node.name : `${within.group} / ${node.name}`,
      LIMITS.nameLength.max,
    );
    return layersUnder(painting, node.children, { group, opacity, hidden }, rate);
  });
}

function paintedLayer(
  painting: ImportedPainting,
  layer: ImportedLayer,
  { group, opacity, hidden }: Within,
  rate: Scene['rate'],
): PaintedLayer {
  return {
    name: layer.name,
    group,
    art: layer.art,
    moving: movingOf(layer, rate),
    xPx: layer.xPx,
    yPx: layer.yPx,
    opacity,
    hidden,
    ...(layer.mode ? { mode: layer.mode } : {}),
    file: layer.file ?? painting.file,
    paintingWidthPx: painting.widthPx,
    paintingHeightPx: painting.heightPx,
  };
}

/** A film runs at its own rate, a frame after the other; of what gives its delays each picture is held in the shot's frames. */
function movingOf({ frames, rate: own }: ImportedLayer, rate: Scene['rate']): PaintedLayer['moving'] {
  if (!frames) return null;
  if (own) {
    const same = own.num * rate.den === rate.num * own.den;
    return { exposures: heldOnce(frames.map(({ art }) => ({ art, hold: 1 }))), rate: same ? null : own };
  }
  const holds = holdsOfDelays(
    frames.map(({ delayMs }) => delayMs),
    rate,
  );
  return { exposures: frames.map(({ art }, i) => ({ art, hold: holds[i] ?? 1 })), rate: null };
}

/** The same picture again and again is one exposure that is held. */
function heldOnce(exposures: readonly Exposure[]): Exposure[] {
  const held: Exposure[] = [];
  for (const exposure of exposures) {
    const last = held.at(-1);
    if (last?.art.id === exposure.art.id)
      held[held.length - 1] = { ...last, hold: last.hold + exposure.hold };
    else held.push(exposure);
  }
  return held;
}
