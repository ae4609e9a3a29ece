import {
  getLayerImageData,
  getLayerMaskImageData,
  initializeCanvas,
  type Layer,
  type LayerMaskData,
  type PixelData,
  type Psd,
  readPsd,
} from 'ag-psd';
import { type DeepRaster, type Raster, raster } from '../../image/index.ts';
import { fail, ok, type Result, reasonOf } from '../../units/index.ts';
import {
  type ArtFault,
  DEEPEST_GROUPS,
  hasModes,
  layerName,
  modeOfLayered,
  type NotKept,
  type Painting,
  type TreeNode,
} from '../index.ts';
import { readPsdProfile } from './profile.ts';

/** Pixels of a layer; `deep`: the same in 16 bits a channel, where the file has 16. */
export interface LayerPixels {
  readonly image: Raster<'straight'>;
  readonly deep: DeepRaster | null;
}

/** Decodes the pixels of a layer when they are wanted, so that a large file is never all open at once. */
export type LazyPixels = () => Result<LayerPixels, ArtFault>;

export interface PsdPainting extends Painting<LazyPixels> {
  /** The embedded colour profile, or null where the file has none. */
  readonly profile: Uint8Array | null;
}

/** No canvas: the reader needs only a buffer, and pixels must not pass through premultiplied alpha. */
initializeCanvas(
  () => {
    throw new Error('Layers are read as pixels');
  },
  (width, height) => ({ width, height, data: new Uint8ClampedArray(width * height * 4), colorSpace: 'srgb' }),
);

/** Bytes of one decoded layer past which a file is a bomb, not a painting. */
const LARGEST_LAYER_BYTES = 384_000_000 * 4;

/**
 * Reads a layered PSD or PSB. Layer and group masks and clipping are worked into the pixels; modes that are not of W3C compositing, live
 * effects, adjustments and text effects are reported. Colours are as the file has them: `profile` tells which they are.
 */
export function readPsdPainting(bytes: Uint8Array): Result<PsdPainting, ArtFault> {
  let psd: Psd;
  try {
    psd = readPsd(bytes, {
      useImageData: true,
      useRawData: true,
      skipThumbnail: true,
      skipLinkedFilesData: true,
    });
  } catch (error) {
    return fail({ code: 'damaged', detail: `its layers cannot be read (${reason(error)})` });
  }
  if (!psd.children || psd.children.length === 0) return flatPsd(psd, bytes);
  if (isTooDeep(psd.children))
    return fail({
      code: 'too-large',
      detail: `its groups lie more than ${DEEPEST_GROUPS} deep in one another`,
    });
  const reader = new LayerReader();
  const nodes = reader.nodes(psd.children, [], '');
  if (nodes.length === 0) return flatPsd(psd, bytes);
  const { width: widthPx, height: heightPx } = psd;
  const depth = psd.bitsPerChannel ?? 8;
  if (depth > 16) reader.drop('colour-depth', 'All layers', `${depth} bit`);
  return ok({ widthPx, heightPx, nodes, notKept: reader.notKept, profile: readPsdProfile(bytes) });
}

const reason = (error: unknown): string => reasonOf(error).split('\n')[0] ?? '';

/** Level by level, not by recursion, which a file could make as deep as it likes. */
function isTooDeep(layers: readonly Layer[]): boolean {
  let level = layers;
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > DEEPEST_GROUPS) return true;
    level = level.flatMap(({ children }) => children ?? []);
  }
  return false;
}

/** A file without painted layers is one layer: its merged picture. */
function flatPsd(psd: Psd, bytes: Uint8Array): Result<PsdPainting, ArtFault> {
  const { width: widthPx, height: heightPx } = psd;
  const image: LazyPixels = () => {
    try {
      const whole = readPsd(bytes, { useImageData: true, skipThumbnail: true, skipLayerImageData: true });
      return whole.imageData
        ? ok(pixelsOf(whole.imageData))
        : fail({ code: 'no-layers', detail: 'it holds neither layers nor a merged image' });
    } catch (error) {
      return fail({ code: 'damaged', detail: `its pixels cannot be read (${reason(error)})` });
    }
  };
  const layer = {
    kind: 'layer',
    name: 'Background',
    xPx: 0,
    yPx: 0,
    opacity: 1,
    hidden: false,
    image,
  } as const;
  return ok({ widthPx, heightPx, nodes: [layer], notKept: [], profile: readPsdProfile(bytes) });
}

/** What is left of a layer's paint: what it is filled by counts as its opacity does, since no effects are drawn. */
const opacityOf = ({ opacity = 1, fillOpacity = 1 }: Layer): number => opacity * fillOpacity;

/** A mask that is worked into alpha: those of the layer, its groups, and the layer that it is clipped to. */
type AlphaMask = (x: number, y: number) => number;

class LayerReader {
  readonly notKept: NotKept[] = [];
  drop(code: NotKept['code'], layer: string, detail: string): void {
    this.notKept.push({ code, layer, detail });
  }

  /** On top first; the file lists them from the bottom. */
  nodes(layers: readonly Layer[], masks: readonly (() => AlphaMask)[], path: string): TreeNode<LazyPixels>[] {
    const nodes: TreeNode<LazyPixels>[] = [];
    let base: Layer | null = null;
    for (const layer of layers) {
      const clippedTo: Layer | null = layer.clipping ? base : null;
      if (!layer.clipping) base = layer;
      const node = this.node(layer, masks, path, clippedTo);
      if (node) nodes.unshift(node);
    }
    return nodes;
  }

  private node(
    layer: Layer,
    masks: readonly (() => AlphaMask)[],
    path: string,
    clippedTo: Layer | null,
  ): TreeNode<LazyPixels> | null {
    const name = layerName(layer.name, layer.children ? 'Group' : 'Layer');
    const full = layerName(path === '' ? name : `${path} / ${name}`, name);
    const opacity = Math.round(opacityOf(layer) * 255) / 255;
    const hidden = layer.hidden === true || clippedTo?.hidden === true;
    const named = layer.blendMode ?? (layer.children ? 'pass through' : 'normal');
    const { mode, notKept } = modeOfLayered(named);
    if (layer.children ? mode !== 'paint' || notKept : notKept)
      this.drop(layer.children ? 'blend-mode' : (notKept ?? 'blend-mode'), full, named);
    if (layer.effects && !layer.effects.disabled) this.drop('effects', full, '');
    const own = layer.mask && !layer.mask.disabled ? [...masks, () => this.maskOf(layer)] : masks;
    if (layer.children) {
      if (opacity < 1) this.drop('group-opacity', full, `${Math.round(opacity * 100)} %`);
      const inner = clippedTo ? [...own, () => this.alphaOf(clippedTo)] : own;
      const children = this.nodes(layer.children, inner, full);
      if (named !== 'pass through' && hasModes(children)) this.drop('isolated-group', full, '');
      return children.length === 0 ? null : { kind: 'group', name, opacity, hidden, children };
    }
    const [width, height] = [(layer.right ?? 0) - (layer.left ?? 0), (layer.bottom ?? 0) - (layer.top ?? 0)];
    if (!(width > 0 && height > 0)) {
      this.drop(layer.adjustment ? 'filter' : 'empty-layer', full, layer.adjustment?.type ?? '');
      return null;
    }
    const all = clippedTo ? [...own, () => this.alphaOf(clippedTo)] : own;
    const [xPx, yPx] = [layer.left ?? 0, layer.top ?? 0];
    const laid = mode === 'paint' ? {} : { mode };
    return { kind: 'layer', name, xPx, yPx, opacity, hidden, ...laid, image: () => this.pixels(layer, all) };
  }

  private pixels(layer: Layer, masks: readonly (() => AlphaMask)[]): Result<LayerPixels, ArtFault> {
    try {
      const data = this.decode(layer);
      if (!data) return fail({ code: 'damaged', detail: 'its pixels are missing' });
      for (const mask of masks) applyMask(data, mask(), layer.left ?? 0, layer.top ?? 0);
      return ok(pixelsOf(data));
    } catch (error) {
      return fail({ code: 'damaged', detail: `its pixels cannot be read (${reason(error)})` });
    }
  }

  private decode(layer: Layer): PixelData | undefined {
    const [width, height] = [(layer.right ?? 0) - (layer.left ?? 0), (layer.bottom ?? 0) - (layer.top ?? 0)];
    if (width * height * 4 > LARGEST_LAYER_BYTES)
      throw new Error('a layer is larger than 384 million pixels');
    return getLayerImageData(layer);
  }

  /** Alpha of a layer as it is drawn, for what is clipped to it; a group counts as the union of its layers. */
  private alphaOf(layer: Layer): AlphaMask {
    if (layer.children) {
      const parts = layer.children.filter((child) => !child.hidden).map((child) => this.alphaOf(child));
      return (x, y) => 1 - parts.reduce((clear, part) => clear * (1 - part(x, y)), 1);
    }
    const data = this.decode(layer);
    if (!data) return () => 0;
    const valueAt = valuesOf(data, 3);
    const mask = layer.mask && !layer.mask.disabled ? this.maskOf(layer) : () => 1;
    const [left, top] = [layer.left ?? 0, layer.top ?? 0];
    const opacity = opacityOf(layer);
    return (x, y) => {
      const value = valueAt(x - left, y - top);
      return value === null ? 0 : value * opacity * mask(x, y);
    };
  }

  private maskOf(layer: Layer): AlphaMask {
    const mask = layer.mask as LayerMaskData;
    const outside = (mask.defaultColor ?? 0) / 255;
    const data = getLayerMaskImageData(layer);
    if (!data) return () => outside;
    const valueAt = valuesOf(data, 0);
    const left = (mask.left ?? 0) + (mask.positionRelativeToLayer ? (layer.left ?? 0) : 0);
    const top = (mask.top ?? 0) + (mask.positionRelativeToLayer ? (layer.top ?? 0) : 0);
    return (x, y) => valueAt(x - left, y - top) ?? outside;
  }
}

/** What a channel holds where it is full: a 32-bit one is 1 there. */
const fullOf = (data: PixelData['data']): number =>
  data instanceof Uint16Array ? 65_535 : data instanceof Float32Array ? 1 : 255;

/** A channel's value (0 to 1) at a px; null outside. */
function valuesOf({ width, height, data }: PixelData, channel: number) {
  const full = fullOf(data);
  return (x: number, y: number): number | null => {
    if (x < 0 || y < 0 || x >= width || y >= height) return null;
    return Math.min(1, Math.max(0, (data[(y * width + x) * 4 + channel] as number) / full));
  };
}

function applyMask({ width, height, data }: PixelData, mask: AlphaMask, left: number, top: number): void {
  const whole = !(data instanceof Float32Array);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4 + 3;
      const masked = (data[at] as number) * mask(x + left, y + top);
      data[at] = whole ? Math.round(masked) : masked;
    }
  }
}

/** 16-bit values are v·65535 and are kept beside their bytes; 32-bit ones are in [0, 1] and are rounded to 8. */
function pixelsOf({ width, height, data }: PixelData): LayerPixels {
  if (data instanceof Uint8Array || data instanceof Uint8ClampedArray) {
    const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    return { image: raster(width, height, 'straight', bytes), deep: null };
  }
  const image = raster(width, height, 'straight');
  const gain = 255 / fullOf(data);
  for (let i = 0; i < image.data.length; i++)
    image.data[i] = Math.min(255, Math.max(0, Math.round((data[i] as number) * gain)));
  if (!(data instanceof Uint16Array)) return { image, deep: null };
  return { image, deep: { widthPx: width, heightPx: height, colour: 'srgb', alpha: 'straight', data } };
}
