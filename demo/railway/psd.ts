import { type Layer, writePsdUint8Array } from 'ag-psd';
import { type Canvas, toRaster } from '../paint/canvas.ts';
import { car } from './car.ts';
import { cliff, track } from './cliff.ts';
import { banks, coast, sea, terraces } from './far.ts';

/** The whole painting of *Cliff railway*, px. */
export const RAILWAY = { widthPx: 2200, heightPx: 3000 } as const;

const layer = (name: string, canvas: Canvas): Layer => {
  const { data, widthPx: width, heightPx: height } = toRaster(canvas);
  return {
    name,
    left: canvas.x,
    top: canvas.y,
    imageData: { width, height, data: new Uint8ClampedArray(data) },
  };
};

/** Paints *Cliff railway* as a layered PSD, in two groups; the sky is a card and the lamp's light moves, so both are not in it. */
export async function paintRailway(): Promise<Uint8Array> {
  const far = [
    layer('Cloud banks', await banks()),
    layer('Far coast', await coast()),
    layer('Sea', await sea()),
    layer('Terraces', await terraces()),
  ];
  const near = [
    layer('Cliff', await cliff()),
    layer('Railway track', await track()),
    layer('Car', await car()),
  ];
  return writePsdUint8Array({
    width: RAILWAY.widthPx,
    height: RAILWAY.heightPx,
    children: [
      { name: 'Far', opened: true, children: far },
      { name: 'Railway', opened: true, children: near },
    ],
  });
}
