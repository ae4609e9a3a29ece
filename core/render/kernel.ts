import { type Raster, raster } from '../image/index.ts';
import { Arena, type GrowableMemory } from './arena.ts';
import {
  encodeLayers,
  type ImageAddress,
  type LayerTable,
  levelOfImage,
  packBackground,
  scratchBytes,
} from './layer-table.ts';
import type { RenderLayer, RenderView } from './layers.ts';
import { imageLayout, storeImage } from './stored-image.ts';

/** What assembly/kernel.ts exports; addresses are bytes in the shared memory. */
export interface KernelExports {
  renderRows(
    layers: number,
    count: number,
    scratch: number,
    out: number,
    widthPx: number,
    startRow: number,
    endRow: number,
    background: number,
    dither: number,
  ): void;
}

/** Limits of the memory that kernel.wasm imports as env.memory, in 64 KiB pages: 1 MiB to 4 GiB. */
export const KERNEL_MEMORY = { initial: 16, maximum: 65_536, shared: true } as const;

/** Rows [startRow, endRow) of one image; small enough to be posted to a worker. */
export interface RowsJob {
  readonly table: LayerTable;
  readonly tableAt: number;
  readonly scratchAt: number;
  readonly outAt: number;
  readonly widthPx: number;
  readonly startRow: number;
  readonly endRow: number;
  readonly background: number;
}

/** Bytes that a caller of runRows must own at `tableAt` and `scratchAt`. */
export const jobBytes = (widthPx: number, table: LayerTable) => ({
  table: Math.max(1, table.bytes.length),
  scratch: scratchBytes(widthPx, table.count),
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
    job.startRow,
    job.endRow,
    job.background,
    job.table.dither ? 1 : 0,
  );
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
  addImage(artId: string, image: Raster<'straight'>): void {
    if (this.images.has(artId)) return;
    const layout = imageLayout(image.widthPx, image.heightPx);
    const address = this.arena.allocate(layout.bytes);
    storeImage(image, layout, new Uint8Array(this.arena.memory.buffer, address, layout.bytes));
    this.images.set(artId, { address, layout });
  }

  /** Premultiplied pixels of one image. Throws when an image has not been added. */
  render(layers: readonly RenderLayer[], view: RenderView): Raster<'premultiplied'> {
    for (const layer of layers) {
      if (layer.kind === 'image' && !this.images.has(layer.artId))
        throw new Error(`Art ${layer.artId} was not added`);
    }
    const { widthPx, heightPx } = view;
    const table = encodeLayers(layers, (id, level) => {
      const image = this.images.get(id);
      return image && levelOfImage(image, level);
    });
    const bytes = jobBytes(widthPx, table);
    const tableAt = this.arena.allocate(bytes.table);
    const scratchAt = this.arena.allocate(bytes.scratch);
    const outAt = this.arena.allocate(widthPx * heightPx * 4);
    const background = packBackground(view.background);
    runRows(this.kernel, this.arena.memory, {
      table,
      tableAt,
      scratchAt,
      outAt,
      widthPx,
      startRow: 0,
      endRow: heightPx,
      background,
    });
    const pixels = new Uint8Array(this.arena.memory.buffer, outAt, widthPx * heightPx * 4).slice();
    for (const address of [tableAt, scratchAt, outAt]) this.arena.release(address);
    return raster(widthPx, heightPx, 'premultiplied', pixels);
  }
}
