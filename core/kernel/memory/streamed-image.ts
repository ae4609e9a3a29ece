import { type Affine, type Box, compose, mapBox, scaling } from '../../geometry/index.ts';
import { CHUNK_PX, chunkGrid } from '../../image/index.ts';
import type { ImageLayer } from '../../picture/index.ts';
import type { Repeat } from '../../scene/index.ts';
import { repeatsAcross, repeatsDown } from '../../staging/index.ts';
import type { Arena } from './arena.ts';
import { alphaIn, levelLayout, type StoredLevel } from './stored-image.ts';

/** Chunks of a level's grid, all corners included. */
export interface ChunkRect {
  readonly c0: number;
  readonly r0: number;
  readonly c1: number;
  readonly r1: number;
}

export interface StreamedLevel {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly texelBytes: 4 | 8;
  readonly tiles: Uint8Array;
}

/** Where an image's levels come from, piece by piece. */
export interface StreamSource {
  /** Sizes and tile maps of all levels, finest first, and the bytes that their texels take. */
  levels(): Promise<readonly StreamedLevel[]>;
  /** Chunks of a level, row by row: each a length (32 bits, little endian) and zlib bytes, none where it is clear. */
  chunks(level: number, rect: ChunkRect): Promise<Uint8Array>;
}

interface Level extends StreamedLevel {
  readonly columns: number;
  readonly rows: number;
  /** Where it lies, once it was wanted: addresses of the memory, not of the image. */
  place: { readonly address: number; readonly bytes: number; readonly level: StoredLevel } | null;
  /** 1 where a chunk is there; 2 where it is on its way. */
  readonly chunks: Uint8Array;
  usedAt: number;
  /** Leases that read it: it is not given up before they are over. */
  pins: number;
}

/** Where the pixels of fetched chunks go. */
export interface ChunkTarget {
  readonly level: StoredLevel;
  readonly rect: ChunkRect;
  readonly bytes: Uint8Array;
}

/** What a level still lacks for a view. */
export interface MissingChunks {
  readonly level: number;
  readonly rect: ChunkRect;
}

/** Undoes one thing, once however often it is called. */
export type Release = () => void;

const HERE = 1;
const COMING = 2;
/** Levels of at most this size are there from the start, so that there is always something to draw. */
const BASE_PX = CHUNK_PX;

/** One image whose levels are loaded as they come into view. Owned by one thread. */
export class StreamedImage {
  readonly artId: string;
  private readonly source: StreamSource;
  private readonly arena: Arena;
  private readonly unpack: (target: ChunkTarget) => Promise<void>;
  private levels: Level[] = [];
  /** Loads that are under way. */
  private readonly loads = new Set<Promise<unknown>>();

  constructor(
    artId: string,
    source: StreamSource,
    arena: Arena,
    unpack: (target: ChunkTarget) => Promise<void>,
  ) {
    this.artId = artId;
    this.source = source;
    this.arena = arena;
    this.unpack = unpack;
  }

  /** Reads the sizes and loads the first level that fits into one chunk. */
  async open(): Promise<void> {
    const levels = await this.source.levels();
    this.levels = levels.map(({ widthPx, heightPx, texelBytes, tiles }): Level => {
      const { columns, rows } = chunkGrid(widthPx, heightPx);
      return {
        widthPx,
        heightPx,
        texelBytes,
        tiles,
        columns,
        rows,
        place: null,
        chunks: new Uint8Array(columns * rows),
        usedAt: 0,
        pins: 0,
      };
    });
    const base = this.levels.findIndex(({ widthPx, heightPx }) => Math.max(widthPx, heightPx) <= BASE_PX);
    await this.load(base, { c0: 0, r0: 0, c1: 0, r1: 0 });
  }

  levelAt(index: number): StoredLevel | undefined {
    return this.levels[index]?.place?.level;
  }

  /**
   * The layer on the finest level, from the one it wants on, that has all that the view shows; null while there is
   * none. `missing` is what the wanted level still lacks.
   */
  resolve(
    layer: ImageLayer,
    view: { widthPx: number; heightPx: number },
    tick: number,
  ): { layer: ImageLayer | null; missing: MissingChunks | null } {
    let missing: MissingChunks | null = null;
    const wanted = this.levels[layer.level] as Level;
    for (let index = layer.level; index < this.levels.length; index++) {
      const level = this.levels[index] as Level;
      const imageToLevel = compose(
        scaling(level.widthPx / wanted.widthPx, level.heightPx / wanted.heightPx),
        layer.imageToLevel,
      );
      const rect = seenChunks(level, imageToLevel, view, layer.repeat);
      if (!rect) return { layer: null, missing: null };
      level.usedAt = tick;
      if (level.place && everyChunk(level, rect, (state) => state === HERE))
        return { layer: index === layer.level ? layer : { ...layer, level: index, imageToLevel }, missing };
      if (index === layer.level && !everyChunk(level, rect, (state) => state !== 0))
        missing = { level: index, rect };
      // On its way already: it counts as missing, but nothing needs to be asked for.
      else if (index === layer.level) missing = { level: index, rect: NOTHING };
    }
    return { layer: null, missing };
  }

  /** Fetches the chunks of `rect`, and one more round it, that are neither here nor on their way. False: nothing to do. */
  async load(index: number, rect: ChunkRect): Promise<boolean> {
    const level = this.levels[index];
    if (!level || rect === NOTHING) return false;
    const wanted = absentIn(level, grown(level, rect));
    if (!wanted) return false;
    const place = level.place ?? this.placeLevel(level);
    setChunks(level, wanted, COMING);
    const fetched = this.source
      .chunks(index, wanted)
      .then((bytes) => this.unpack({ level: place.level, rect: wanted, bytes }));
    this.loads.add(fetched);
    try {
      await fetched;
      setChunks(level, wanted, HERE);
      return true;
    } catch (error) {
      setChunks(level, wanted, 0);
      throw error;
    } finally {
      this.loads.delete(fetched);
    }
  }

  /** Resolves when one of the loads under way has ended, well or not; at once where there is none. */
  async nextArrival(): Promise<void> {
    if (this.loads.size > 0) await Promise.race([...this.loads].map((load) => load.catch(() => {})));
  }

  /** The chunks that the view reads of the level that the layer names; null where it reads none. */
  wanted(layer: ImageLayer, view: { widthPx: number; heightPx: number }): MissingChunks | null {
    const level = this.levels[layer.level];
    const rect = level && seenChunks(level, layer.imageToLevel, view, layer.repeat);
    return rect ? { level: layer.level, rect } : null;
  }

  isHere({ level: index, rect }: MissingChunks): boolean {
    const level = this.levels[index];
    return level?.place != null && everyChunk(level, rect, (state) => state === HERE);
  }

  /** Bytes that a level still has to be given before chunks of it can come. */
  bytesToPlace(index: number): number {
    const level = this.levels[index];
    return level && !level.place ? levelLayout(level.widthPx, level.heightPx, 0, level.texelBytes).end : 0;
  }

  /** Keeps a level's memory until it is released. */
  pin(index: number): Release {
    const level = this.levels[index];
    if (!level) return () => {};
    level.pins += 1;
    return once(() => {
      level.pins -= 1;
    });
  }

  /** Whether nobody reads any level of it and nothing is on its way: it may be closed. */
  get isIdle(): boolean {
    return this.levels.every(({ pins, chunks }) => pins === 0 && !chunks.includes(COMING));
  }

  /** Tick of the last use of any level. */
  get usedAt(): number {
    return Math.max(0, ...this.levels.map(({ usedAt }) => usedAt));
  }

  /** Gives all of its memory back. Call only while it is idle. */
  close(): void {
    for (const level of this.levels) if (level.place) this.release(level, level.place);
  }

  private release(level: Level, { address }: NonNullable<Level['place']>): void {
    this.arena.release(address);
    level.place = null;
    level.chunks.fill(0);
  }

  private placeLevel(level: Level): NonNullable<Level['place']> {
    const bytes = levelLayout(level.widthPx, level.heightPx, 0, level.texelBytes).end;
    const address = this.arena.allocate(bytes);
    const placed = levelLayout(level.widthPx, level.heightPx, address, level.texelBytes).level;
    new Uint8Array(this.arena.memory.buffer, placed.tilesAt, level.tiles.length).set(level.tiles);
    level.place = { address, bytes, level: placed };
    return level.place;
  }

  /** Alpha (0 to 255) at an art pixel, from the finest level that is here. */
  alphaAt(x: number, y: number): number {
    const whole = this.levels[0];
    if (!whole || x < 0 || y < 0 || x >= whole.widthPx || y >= whole.heightPx) return 0;
    for (const level of this.levels) {
      const u = Math.floor((x * level.widthPx) / whole.widthPx);
      const v = Math.floor((y * level.heightPx) / whole.heightPx);
      const chunk = Math.floor(v / CHUNK_PX) * level.columns + Math.floor(u / CHUNK_PX);
      if (!level.place || level.chunks[chunk] !== HERE) continue;
      return alphaIn(this.arena.memory, level.place.level, u, v);
    }
    return 0;
  }

  /** Levels that may be given up: not in use since `tick`, not the base, nothing on its way. Oldest use with them. */
  idleLevels(tick: number): { readonly usedAt: number; readonly release: () => void }[] {
    return this.levels.flatMap((level) => {
      const { place } = level;
      const isBase = Math.max(level.widthPx, level.heightPx) <= BASE_PX;
      const inUse = level.usedAt >= tick || level.pins > 0 || level.chunks.includes(COMING);
      if (!place || isBase || inUse) return [];
      return [{ usedAt: level.usedAt, release: () => this.release(level, place) }];
    });
  }
}

export function once(undo: () => void): Release {
  let open = true;
  return () => {
    if (open) undo();
    open = false;
  };
}

const NOTHING: ChunkRect = { c0: 0, r0: 0, c1: -1, r1: -1 };

/** The chunks that the view may read of a level, with the texel beside each; null when it shows nothing of it. */
function seenChunks(
  level: Level,
  imageToLevel: Affine,
  view: { widthPx: number; heightPx: number },
  repeat: Repeat,
): ChunkRect | null {
  const box: Box = mapBox(imageToLevel, { x0: 0, y0: 0, x1: view.widthPx, y1: view.heightPx });
  const across = seenTexels(box.x0, box.x1, level.widthPx, repeatsAcross(repeat));
  const down = seenTexels(box.y0, box.y1, level.heightPx, repeatsDown(repeat));
  if (!across || !down) return null;
  const chunk = (v: number) => Math.floor(v / CHUNK_PX);
  return { c0: chunk(across.from), r0: chunk(down.from), c1: chunk(across.to), r1: chunk(down.to) };
}

/** Texels that the kernel may weigh beside those under the px of the view, however it turns. */
const READ_BESIDE = 10;

/** Texels [from, to] that are read between two coordinates; all of a tiled axis where the seam is in view. */
function seenTexels(
  low: number,
  high: number,
  size: number,
  tiled: boolean,
): { readonly from: number; readonly to: number } | null {
  const [first, last] = [Math.floor(low) - READ_BESIDE, Math.ceil(high) + READ_BESIDE];
  if (tiled) {
    const from = ((first % size) + size) % size;
    const to = from + last - first;
    return to < size ? { from, to } : { from: 0, to: size - 1 };
  }
  const [from, to] = [Math.max(0, first), Math.min(size - 1, last)];
  return from > to ? null : { from, to };
}

function everyChunk(level: Level, { c0, r0, c1, r1 }: ChunkRect, holds: (state: number) => boolean): boolean {
  for (let row = r0; row <= r1; row++)
    for (let column = c0; column <= c1; column++)
      if (!holds(level.chunks[row * level.columns + column] as number)) return false;
  return true;
}

function setChunks(level: Level, { c0, r0, c1, r1 }: ChunkRect, state: number): void {
  for (let row = r0; row <= r1; row++)
    level.chunks.fill(state, row * level.columns + c0, row * level.columns + c1 + 1);
}

const grown = (level: Level, { c0, r0, c1, r1 }: ChunkRect): ChunkRect => ({
  c0: Math.max(0, c0 - 1),
  r0: Math.max(0, r0 - 1),
  c1: Math.min(level.columns - 1, c1 + 1),
  r1: Math.min(level.rows - 1, r1 + 1),
});

/**
 * The smallest rectangle of chunks that are neither here nor coming, shrunk until none of it is on its way: a chunk
 * that is written twice at once would be torn.
 */
function absentIn(level: Level, rect: ChunkRect): ChunkRect | null {
  let [c0, r0, c1, r1] = [Infinity, Infinity, -1, -1];
  for (let row = rect.r0; row <= rect.r1; row++) {
    for (let column = rect.c0; column <= rect.c1; column++) {
      if (level.chunks[row * level.columns + column] !== 0) continue;
      [c0, r0] = [Math.min(c0, column), Math.min(r0, row)];
      [c1, r1] = [Math.max(c1, column), Math.max(r1, row)];
    }
  }
  if (c1 < 0) return null;
  const found = { c0, r0, c1, r1 };
  if (everyChunk(level, found, (state) => state !== COMING)) return found;
  // Some of it is on its way: take the first absent chunk alone, the next request takes the next one.
  for (let row = r0; row <= r1; row++)
    for (let column = c0; column <= c1; column++)
      if (level.chunks[row * level.columns + column] === 0)
        return { c0: column, r0: row, c1: column, r1: row };
  return null;
}
