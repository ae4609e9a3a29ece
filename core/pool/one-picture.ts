import {
  allStrips,
  CULL_TILE_PX,
  coverBytes,
  encodeLayers,
  groupBytes,
  groupJob,
  jobBytes,
  type NeededStrip,
  neededStrips,
  type PixelFormat,
  packBackground,
  rowsOfGroup,
} from '../kernel/index.ts';
import type { Arena, StopSignal, StoredLevel } from '../kernel/memory/index.ts';
import { CLEAR, type GroupLayer, type RenderLayer, type RenderView } from '../picture/index.ts';
import { type Crew, wordAt } from './crew.ts';

type Size = Pick<RenderView, 'widthPx' | 'heightPx'>;

/** Where a level of an image lies; undefined where it is not there. */
export type LevelOf = (artId: string, level: number) => StoredLevel | undefined;

/** Shapes are never known to fill a tile, and what is laid over by light hides nothing. */
const mayHide = (layer: RenderLayer): boolean => layer.kind !== 'path' && layer.mode === 'paint';

/** One picture while it is drawn: its memory, the word that stops it, the groups that are drawn; all of it given back by `end`. */
export class OnePicture {
  private readonly crew: Crew;
  private readonly arena: Arena;
  private readonly levelOf: LevelOf;
  private readonly signal: StopSignal | undefined;
  private readonly owned = new Set<number>();
  private readonly groups = new Map<GroupLayer, StoredLevel>();
  private readonly stopAt: number;

  constructor(crew: Crew, arena: Arena, levelOf: LevelOf, signal: StopSignal | undefined) {
    this.crew = crew;
    this.arena = arena;
    this.levelOf = levelOf;
    this.signal = signal;
    this.stopAt = this.take(4);
    Atomics.store(wordAt(arena.memory, this.stopAt), 0, 0);
    signal?.addEventListener('abort', this.onAbort);
  }

  /** Workers look at it between bands of rows. */
  private readonly onAbort = (): void => {
    Atomics.store(wordAt(this.arena.memory, this.stopAt), 0, 1);
  };

  take(bytes: number): number {
    const at = this.arena.allocate(bytes);
    this.owned.add(at);
    return at;
  }

  /** Frees what was taken before the picture is done. */
  private give(at: number): void {
    if (this.owned.delete(at) && !this.crew.closed) this.arena.release(at);
  }

  end(): void {
    this.signal?.removeEventListener('abort', this.onAbort);
    if (!this.crew.closed) for (const at of this.owned) this.arena.release(at);
  }

  /**
   * The pictures of the groups among `layers`, as many side by side as there are workers; each after those that it holds.
   * The nearest come first: what they hide of those behind them is not made.
   */
  async drawGroups(layers: readonly RenderLayer[], view: Size): Promise<void> {
    const groups = layers
      .flatMap((group, place) =>
        group.kind === 'group' ? [{ group, nearer: layers.slice(place + 1).filter(mayHide) }] : [],
      )
      .toReversed();
    let next = 0;
    const some = async () => {
      for (let one = groups[next++]; one; one = groups[next++])
        await this.drawGroup(one.group, await this.stripsSeen(one.group, one.nearer, view));
    };
    await settled(Array.from({ length: Math.min(this.crew.size, groups.length) }, some));
  }

  /** What of a group is seen behind `nearer` layers, as far as these are drawn. */
  private async stripsSeen(
    group: GroupLayer,
    nearer: readonly RenderLayer[],
    { widthPx, heightPx }: Size,
  ): Promise<NeededStrip[]> {
    const table = this.tableOf(nearer);
    if (table.count === 0) return allStrips(group);
    const bytes = coverBytes(widthPx, heightPx);
    const [tableAt, coveredAt] = [this.take(table.bytes.length), this.take(bytes)];
    const cover = { table, tableAt, widthPx, heightPx, coveredAt };
    await this.crew.ask((id) => ({ kind: 'cover', id, job: cover }), []);
    const covered = new Uint8Array(this.arena.memory.buffer, coveredAt, bytes).slice();
    this.give(tableAt);
    this.give(coveredAt);
    return neededStrips(group, { widthPx, heightPx }, covered);
  }

  private async drawGroup(group: GroupLayer, strips: readonly NeededStrip[]): Promise<void> {
    // One that is hidden leaves no mark, and is left out.
    if (strips.length === 0) return;
    await this.drawGroups(group.inner, group);
    const bytes = groupBytes(group);
    const at = {
      result: this.take(bytes.result),
      drawn: this.take(bytes.drawn),
      pass: this.take(bytes.pass),
    };
    const rows = rowsOfGroup(group, strips);
    const to = { outAt: at.drawn, format: 'lanes15', split: this.crew.size, rows } as const;
    await this.draw(group.inner, { ...group, background: CLEAR }, to);
    const work = groupJob(group, at, strips);
    await this.crew.ask((id) => ({ kind: 'group', id, job: work }), []);
    // Only the result is read any more.
    this.give(at.drawn);
    this.give(at.pass);
    this.groups.set(group, work.result);
  }

  private tableOf(layers: readonly RenderLayer[]): ReturnType<typeof encodeLayers> {
    return encodeLayers(layers, {
      levelOf: this.levelOf,
      groupOf: (group) => this.groups.get(group),
    });
  }

  /** `rows`: those that are drawn, in whole bands, where not all are wanted. */
  async draw(
    layers: readonly RenderLayer[],
    { widthPx, heightPx, background }: Pick<RenderView, 'widthPx' | 'heightPx' | 'background'>,
    {
      outAt,
      format,
      split,
      rows = { top: 0, bottom: heightPx },
    }: { outAt: number; format: PixelFormat; split: number; rows?: { top: number; bottom: number } },
  ): Promise<void> {
    const { stopAt } = this;
    const table = this.tableOf(layers);
    const bytes = jobBytes(widthPx, table);
    const takenAt = this.take(4);
    const firstBand = Math.floor(rows.top / CULL_TILE_PX);
    Atomics.store(wordAt(this.arena.memory, takenAt), 0, firstBand);
    const ground = packBackground(background);
    const size = { widthPx, heightPx: rows.bottom };
    const part = { table, outAt, ...size, background: ground, format, stopAt, takenAt, firstBand };
    const bands = Math.ceil(rows.bottom / CULL_TILE_PX) - firstBand;
    const workers = Math.max(1, Math.min(split, this.crew.size, bands));
    await settled(
      Array.from({ length: workers }, () => {
        const places = { tableAt: this.take(bytes.table), scratchAt: this.take(bytes.scratch) };
        return this.crew.ask((id) => ({ kind: 'rows', id, job: { ...part, ...places } }), []);
      }),
    );
  }
}

/** Waits for all, so that nobody writes any more when the first fault is thrown. */
async function settled(work: readonly Promise<void>[]): Promise<void> {
  const failed = (await Promise.allSettled(work)).find((one) => one.status === 'rejected');
  if (failed) throw failed.reason;
}
