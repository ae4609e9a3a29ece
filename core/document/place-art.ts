import type { ArtRef, Plane, PlaneId } from './scene.ts';

/** A layer as the painting had it: its upper left corner in px of a painting of the given size. */
export interface PaintedLayer {
  readonly name: string;
  readonly art: ArtRef;
  readonly xPx: number;
  readonly yPx: number;
  readonly opacity: number;
  readonly hidden: boolean;
  readonly paintingWidthPx: number;
  readonly paintingHeightPx: number;
}

/** A plane on the datum with the painting's centre on the axis of the home camera: one art px is one output px. */
export function planeFromLayer(id: PlaneId, layer: PaintedLayer): Plane {
  const { widthPx, heightPx } = layer.art;
  return {
    id,
    name: layer.name,
    art: layer.art,
    mount: 'stage',
    depthSpx: 0,
    transform: {
      xSpx: layer.xPx + widthPx / 2 - layer.paintingWidthPx / 2,
      ySpx: layer.yPx + heightPx / 2 - layer.paintingHeightPx / 2,
      scaleX: 1,
      scaleY: 1,
      rotationDeg: 0,
      anchorXArtPx: widthPx / 2,
      anchorYArtPx: heightPx / 2,
    },
    opacity: layer.opacity,
    hidden: layer.hidden,
  };
}
