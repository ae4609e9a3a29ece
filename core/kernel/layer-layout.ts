import { BLEND_MODES } from '../paint/index.ts';
import { type LayerMode, MOST_STEP, PHASES, passOf, tapsFor } from '../picture/index.ts';

/**
 * The layout of a layer table, stated once: `layer-table.ts` writes by it, and `assembly/layout.ts`, by which the kernel
 * reads, is made from it (`npm run layout`; a test says when it is not). Offsets in bytes, numbers little-endian.
 */

/** `f64`, `f32`, `i32`; an `address` in the kernel's memory or in the table; a `flag`, not zero where it holds. */
export type FieldType = 'f64' | 'f32' | 'i32' | 'address' | 'flag';
export interface Field {
  readonly at: number;
  readonly type: FieldType;
  /** Written by the kernel itself while it draws. */
  readonly inKernel?: true;
}

/** Bytes of one entry. */
export const LAYER_BYTES = 144;

/** What every entry has: the map from pixel indices to texels or to the plane of a gradient, and how it is laid over. */
const EVERY = {
  uPerX: { at: 0, type: 'f64' },
  vPerX: { at: 8, type: 'f64' },
  uPerY: { at: 16, type: 'f64' },
  vPerY: { at: 24, type: 'f64' },
  uAtOrigin: { at: 32, type: 'f64' },
  vAtOrigin: { at: 40, type: 'f64' },
  opacityQ15: { at: 72, type: 'i32' },
  kind: { at: 76, type: 'i32' },
  gather: { at: 80, type: 'address', inKernel: true },
  hasApart: { at: 84, type: 'flag', inKernel: true },
  spans: { at: 96, type: 'address', inKernel: true },
  spanCount: { at: 100, type: 'i32', inKernel: true },
  marks: { at: 116, type: 'i32' },
  /** Share of the entry that follows, 0 for none. */
  secondQ15: { at: 120, type: 'i32' },
  /** Place of the look from the start of the table, 0 for none. */
  lookFrom: { at: 124, type: 'address' },
} as const satisfies Readonly<Record<string, Field>>;

/** Of an entry that reads the level of an image. */
const LEVEL = {
  pixels: { at: 48, type: 'address' },
  strideBytes: { at: 52, type: 'i32' },
  widthPx: { at: 56, type: 'i32' },
  heightPx: { at: 60, type: 'i32' },
  tiles: { at: 64, type: 'address' },
  tileColumns: { at: 68, type: 'i32' },
  /** Texels that are weighed along a row of them and from row to row, and where the weights of every phase lie. */
  tapsU: { at: 88, type: 'i32' },
  tapsV: { at: 92, type: 'i32' },
  filterU: { at: 104, type: 'address' },
  filterV: { at: 108, type: 'address' },
  /** Of distances to the edge: so many times a lane is the whole width of a soft edge, 1 being opaque. */
  softGain: { at: 112, type: 'f32' },
  /** Where the image begins and ends, texels: its border, or further where its paint is read on beyond it. */
  left: { at: 128, type: 'f32' },
  right: { at: 132, type: 'f32' },
  top: { at: 136, type: 'f32' },
  bottom: { at: 140, type: 'f32' },
} as const satisfies Readonly<Record<string, Field>>;

/** Of an entry of paths: edges and ramp lie behind all entries, their places count from the start of the table. */
const PATHS = {
  edgesFrom: { at: 48, type: 'address' },
  edgeCount: { at: 52, type: 'i32' },
  boundLeft: { at: 56, type: 'i32' },
  boundRight: { at: 60, type: 'i32' },
  rampFrom: { at: 64, type: 'address' },
  rampLength: { at: 68, type: 'i32' },
  boundTop: { at: 104, type: 'i32' },
  boundBottom: { at: 108, type: 'i32' },
  isRadial: { at: 112, type: 'flag' },
} as const satisfies Readonly<Record<string, Field>>;

export const LAYER_FIELDS = { ...EVERY, ...LEVEL, ...PATHS } as const;
export type LayerField = keyof typeof LAYER_FIELDS;

/** How an entry is read: upright, turned, or paths. */
export const LAYER_KINDS = { upright: 0, turned: 1, paths: 2 } as const;
/**
 * Bits of `marks`. `isSecond`: the coarser level of the entry before, which mixes it in; not drawn by itself. `alongRows`: of a
 * turned one, lines are rows of the picture (../picture/filter/filter.ts). `isWide`: texels of four 15-bit lanes instead of bytes.
 */
export const LAYER_MARKS = {
  repeatsX: 1,
  repeatsY: 2,
  isSecond: 4,
  alongRows: 16,
  isWide: 32,
} as const;

/** Bits of `marks` from this one on: the mode by which it is laid over, as its place among them all. */
const MODE_BIT = 8;
const LAYER_MODES: readonly LayerMode[] = [...BLEND_MODES, 'within'];
export const modeMark = (mode: LayerMode): number => LAYER_MODES.indexOf(mode) << MODE_BIT;

/** Bits behind the mode: the channel in which distances to an edge are read. */
const CHANNEL_BIT = MODE_BIT + 4;
export const channelMark = (channel: number): number => channel << CHANNEL_BIT;

/** A look: nine floats of a matrix, which parts it has, four floats of a vignette; curves from `bytes` on. */
export const LOOK = { parts: 36, vignette: 40, bytes: 64 } as const;
export const LOOK_PARTS = { hasMatrix: 1, hasCurve: 2, hasVignette: 4 } as const;

/** Px: `tile` is what is culled together, and the rows of a band; blocks that the kernel draws in are for what is turned, wide and low otherwise. */
export const BLOCKS = { tile: 32, square: 32, wide: 1024, low: 8 } as const;

/** Filters: phases within a texel, the most texels that are weighed, and texel rows that a turned block may cross. */
export const FILTERS = {
  phases: PHASES,
  phaseBits: Math.log2(PHASES),
  mostTaps: tapsFor(passOf(MOST_STEP)),
  mostRows: 112,
} as const;

/** Writes one field of the entry at `entry`. */
export function setField(table: DataView, entry: number, field: LayerField, value: number): void {
  const { at, type } = LAYER_FIELDS[field];
  if (type === 'f64') table.setFloat64(entry + at, value, true);
  else if (type === 'f32') table.setFloat32(entry + at, value, true);
  else if (type === 'address') table.setUint32(entry + at, value, true);
  else table.setInt32(entry + at, value, true);
}

const LOADS: Readonly<Record<FieldType, { type: string; load: (at: number) => string }>> = {
  f64: { type: 'f64', load: (at) => `load<f64>(l, ${at})` },
  f32: { type: 'f64', load: (at) => `<f64>load<f32>(l, ${at})` },
  i32: { type: 'i32', load: (at) => `load<i32>(l, ${at})` },
  address: { type: 'usize', load: (at) => `<usize>load<u32>(l, ${at})` },
  flag: { type: 'bool', load: (at) => `load<i32>(l, ${at}) != 0` },
};
const STORES: Readonly<Record<FieldType, (at: number) => string>> = {
  f64: (at) => `store<f64>(l, value, ${at})`,
  f32: (at) => `store<f32>(l, <f32>value, ${at})`,
  i32: (at) => `store<i32>(l, value, ${at})`,
  address: (at) => `store<u32>(l, <u32>value, ${at})`,
  flag: (at) => `store<i32>(l, value ? 1 : 0, ${at})`,
};

const upper = (name: string): string => name.replace(/([A-Z])/g, '_$1').toUpperCase();
const constants = (values: Readonly<Record<string, number>>, type: string, prefix = ''): string[] =>
  Object.entries(values).map(([name, value]) => `export const ${prefix}${upper(name)}: ${type} = ${value};`);

/** `assembly/layout.ts`: the same layout in AssemblyScript. */
export function layoutAssembly(): string {
  const fields = Object.entries(LAYER_FIELDS as Readonly<Record<string, Field>>).flatMap(
    ([name, { at, type, inKernel }]) => {
      const { type: given, load } = LOADS[type];
      const set = `set${name.charAt(0).toUpperCase()}${name.slice(1)}`;
      return [
        `@inline export function ${name}(l: usize): ${given} { return ${load(at)}; }`,
        ...(inKernel
          ? [`@inline export function ${set}(l: usize, value: ${given}): void { ${STORES[type](at)}; }`]
          : []),
      ];
    },
  );
  const marks = Object.entries(LAYER_MARKS).map(
    ([name, bit]) => `@inline export function ${name}(l: usize): bool { return (marks(l) & ${bit}) != 0; }`,
  );
  return [
    '// Made from ../layer-layout.ts by `npm run layout`: change that.',
    '',
    `export const LAYER_BYTES: usize = ${LAYER_BYTES};`,
    ...constants(LAYER_KINDS, 'i32'),
    ...constants(BLOCKS, 'i32'),
    ...constants(FILTERS, 'i32'),
    ...fields,
    ...marks,
    `@inline export function mode(l: usize): i32 { return (marks(l) >> ${MODE_BIT}) & 15; }`,
    `@inline export function channel(l: usize): i32 { return (marks(l) >> ${CHANNEL_BIT}) & 3; }`,
    ...LAYER_MODES.map(
      (mode, i) => `export const MODE_${mode.replaceAll('-', '_').toUpperCase()}: i32 = ${i};`,
    ),
    ...constants(LOOK, 'usize', 'LOOK_'),
    ...constants(LOOK_PARTS, 'i32'),
    '',
  ].join('\n');
}
