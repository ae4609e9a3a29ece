import { type DeepRaster, type Raster, raster } from '../image/index.ts';
import { CLEAR, type GroupLayer, groupsIn, type RenderLayer, type RenderView } from '../picture/index.ts';
import { groupBytes, groupJob, runGroup } from './group-job.ts';
import type { KernelExports } from './kernel-exports.ts';
import {
  CULL_TILE_PX,
  encodeLayers,
  type ImageAddress,
  type LayerTable,
  levelOfImage,
  packBackground,
  scratchBytes,
} from './layer-table.ts';
import {
  Arena,
  copyOf,
  type GrowableMemory,
  imageLayout,
  type StoredLevel,
  storeImage,
  texelBytesFor,
} from './memory/index.ts';
import { allStrips } from './needed-strips.ts';
import { bytesPerPixel, PIXEL_FORMATS, type PixelFormat, type Rendered, renderedAt } from './pixel-format.ts';

/** Limits of the memory that kernel.wasm imports as env.memory, in 64 KiB pages: 1 MiB to 4 GiB. */
export const KERNEL_MEMORY = { initial: 16, maximum: 65_536, shared: true } as const;

/** One image, or the part of it that falls to one of several workers; small enough to be posted to each. */
export interface RowsJob {
  readonly table: LayerTable;
  readonly tableAt: number;
  readonly scratchAt: number;
  readonly outAt: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly background: number;
  readonly format: PixelFormat;
  /** Address of an i32: the work ends at the next band once it is not 0. */
  readonly stopAt: number;
  /** Address of an i32 that counts the bands which are taken on, the same for all workers of one image. */
  readonly takenAt: number;
  /** What it is at first: bands before it are not drawn. */
  readonly firstBand: number;
}

/** Bytes that a caller of runRows must own at `tableAt` and `scratchAt`. */
export const jobBytes = (widthPx: number, table: LayerTable) => ({
  table: Math.max(1, table.bytes.length),
  scratch: scratchBytes(widthPx, table),
});

/** Runs a job on whichever thread holds these exports over `memory`. */
export function runRows(kernel: KernelExports, memory: GrowableMemory, job: RowsJob): void {
  new Uint8Array(memory.buffer).set(job.table.bytes, job.tableAt);
  kernel.renderRows(
    job.tableAt,
    job.table.count,
    job.scratchAt,
    job.outAt,
    job.widthPx,
    job.heightPx,
    job.background,
    job.table.dither ? 1 : 0,
    PIXEL_FORMATS.indexOf(job.format),
    job.stopAt,
    job.takenAt,
  );
}

/** Which tiles of an image some layers hide, for whoever makes what is behind them. */
export interface CoverJob {
  readonly table: LayerTable;
  readonly tableAt: number;
  readonly widthPx: number;
  readonly heightPx: number;
  /** Room for `coverBytes`. */
  readonly coveredAt: number;
}

/** A byte for each tile of an image. */
export const coverBytes = (widthPx: number, heightPx: number): number =>
  Math.ceil(widthPx / CULL_TILE_PX) * Math.ceil(heightPx / CULL_TILE_PX);

export function runCover(kernel: KernelExports, memory: GrowableMemory, job: CoverJob): void {
  const { table, tableAt, widthPx, heightPx, coveredAt } = job;
  const bytes = new Uint8Array(memory.buffer);
  bytes.set(table.bytes, tableAt);
  bytes.fill(0, coveredAt, coveredAt + coverBytes(widthPx, heightPx));
  kernel.coverTiles(tableAt, table.count, widthPx, heightPx, coveredAt);
}

/** A kernel with its images on one thread: for the command line, tests and measurements. */
export class SingleThreadRenderer {
  private readonly arena: Arena;
  private readonly kernel: KernelExports;
  private readonly images = new Map<string, ImageAddress>();

  constructor(kernel: KernelExports, memory: GrowableMemory) {
    this.kernel = kernel;
    this.arena = new Arena(memory);
  }

  /** Keeps an image under `artId`; a second one of the same id is ignored, for the id names the content. */
  addImage(artId: string, image: Raster<'straight'> | DeepRaster): void {
    if (this.images.has(artId)) return;
    const layout = imageLayout(image.widthPx, image.heightPx, texelBytesFor(image));
    const address = this.arena.allocate(layout.bytes);
    storeImage(copyOf(image), layout, new Uint8Array(this.arena.memory.buffer, address, layout.bytes));
    this.images.set(artId, { address, layout });
  }

  /** Pixels of one image. Throws when an image has not been added. */
  render(layers: readonly RenderLayer[], view: RenderView): Raster<'premultiplied'> {
    const { widthPx, heightPx, data } = this.renderAs(layers, view, 'premultiplied8');
    return raster(widthPx, heightPx, 'premultiplied', data);
  }

  /** As `render`, in any format. */
  renderAs<F extends PixelFormat>(layers: readonly RenderLayer[], view: RenderView, format: F): Rendered<F> {
    const { arena } = this;
    const groups = new Map<GroupLayer, StoredLevel>();
    const owned: number[] = [];
    const take = (bytes: number): number => {
      const at = arena.allocate(bytes);
      owned.push(at);
      return at;
    };
    try {
      for (const group of groupsIn(layers)) groups.set(group, this.drawGroup(group, groups, take));
      const outAt = take(view.widthPx * view.heightPx * bytesPerPixel(format));
      this.draw(layers, view, groups, outAt, format);
      return renderedAt(arena.memory.buffer, outAt, view, format);
    } finally {
      for (const address of owned) arena.release(address);
    }
  }

  private drawGroup(
    group: GroupLayer,
    groups: ReadonlyMap<GroupLayer, StoredLevel>,
    take: (bytes: number) => number,
  ): StoredLevel {
    const bytes = groupBytes(group);
    const at = { result: take(bytes.result), drawn: take(bytes.drawn), pass: take(bytes.pass) };
    this.draw(group.inner, { ...group, background: CLEAR }, groups, at.drawn, 'lanes15');
    const job = groupJob(group, at, allStrips(group));
    runGroup(this.kernel, this.arena.memory.buffer, job);
    return job.result;
  }

  private draw(
    layers: readonly RenderLayer[],
    { widthPx, heightPx, background }: Pick<RenderView, 'widthPx' | 'heightPx' | 'background'>,
    groups: ReadonlyMap<GroupLayer, StoredLevel>,
    outAt: number,
    format: PixelFormat,
  ): void {
    const table = encodeLayers(layers, {
      levelOf: (id, level) => {
        const image = this.images.get(id);
        if (!image) throw new Error(`Art ${id} was not added`);
        return levelOfImage(image, level);
      },
      groupOf: (group) => groups.get(group),
    });
    const bytes = jobBytes(widthPx, table);
    const tableAt = this.arena.allocate(bytes.table);
    const scratchAt = this.arena.allocate(bytes.scratch);
    const stopAt = this.arena.allocate(8);
    const takenAt = stopAt + 4;
    try {
      new Uint32Array(this.arena.memory.buffer, stopAt, 2).fill(0);
      runRows(this.kernel, this.arena.memory, {
        table,
        tableAt,
        scratchAt,
        outAt,
        widthPx,
        heightPx,
        background: packBackground(background),
        format,
        stopAt,
        takenAt,
        firstBand: 0,
      });
    } finally {
      for (const address of [tableAt, scratchAt, stopAt]) this.arena.release(address);
    }
  }
}
