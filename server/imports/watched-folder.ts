import { randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { basename } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { type ImportedPainting, importedArtSchema } from '@keen-ridge/core/art/landing';
import type { Offer } from '@keen-ridge/core/contract/many';
import { type FSWatcher, watch } from 'chokidar';
import type { Database } from '../db/connection/queryable.ts';
import { type ShotUsing, shotsUsing } from '../db/wall.ts';
import { causeOf, logFault } from '../faults/cause.ts';
import type { ArtDesk } from './art-desk.ts';

/** A file counts as saved once it has not changed for so long: painting programs write large files in pieces. */
const SETTLED_MS = 1500;
/** Older offers make room for newer ones. */
const MOST_OFFERS = 50;

interface Saved {
  readonly id: string;
  readonly file: string;
  readonly at: Date;
  readonly shots: readonly ShotUsing[];
  readonly paintings: readonly ImportedPainting[];
  readonly fault: string | null;
}

/**
 * A folder on this machine in which paintings are saved: what shots use an older version of is read, and offered to them.
 * Nothing is changed by itself.
 */
export class WatchedFolder {
  readonly folder: string;
  private readonly db: Database;
  private readonly desk: ArtDesk;
  private readonly watcher: FSWatcher;
  private readonly closing = new AbortController();
  private reading: Promise<void> = Promise.resolve();
  private saved: Saved[] = [];

  constructor(db: Database, desk: ArtDesk, folder: string, settledMs = SETTLED_MS) {
    this.db = db;
    this.desk = desk;
    this.folder = folder;
    this.watcher = watch(folder, {
      // What lies there already is no news.
      ignoreInitial: true,
      depth: 3,
      followSymlinks: false,
      ignored: (path) => basename(path).startsWith('.'),
      awaitWriteFinish: { stabilityThreshold: settledMs, pollInterval: Math.max(50, settledMs / 10) },
    });
    const heard = (path: string) => {
      // One after another: a painter who saves ten files at once must not fill the memory.
      this.reading = this.reading.then(() => this.read(path));
    };
    this.watcher.on('add', heard).on('change', heard);
    this.watcher.on('error', (error) => logFault(`The folder ${folder} cannot be watched`, error));
  }

  /** What is offered to shots of the productions that `sees` says yes to. */
  offers(sees: (productionId: string) => boolean): Offer[] {
    return this.saved.flatMap(({ id, file, at, shots, fault }) => {
      const seen = shots
        .filter(({ productionId }) => sees(productionId))
        .map((shot) => ({ id: shot.id, name: shot.name, productionName: shot.productionName }));
      return seen.length === 0 ? [] : [{ id, file, at: at.toISOString(), shots: seen, fault }];
    });
  }

  paintingsOf(id: string): readonly ImportedPainting[] | null {
    return this.saved.find((one) => one.id === id)?.paintings ?? null;
  }

  /** Some shots have taken it: it is offered to the others. */
  taken(id: string, shotIds: readonly string[]): void {
    this.saved = this.saved
      .map((one) =>
        one.id === id ? { ...one, shots: one.shots.filter((shot) => !shotIds.includes(shot.id)) } : one,
      )
      .filter(({ shots }) => shots.length > 0);
  }

  /** It is not wanted. */
  drop(id: string): void {
    this.saved = this.saved.filter((one) => one.id !== id);
  }

  private async read(path: string): Promise<void> {
    if (this.closing.signal.aborted) return;
    const file = basename(path);
    try {
      const shots = await shotsUsing(this.db, file);
      if (shots.length === 0) return;
      const offer = { id: randomUUID(), file, at: new Date(), shots };
      const receive = (to: string) => pipeline(createReadStream(path), createWriteStream(to));
      const { signal } = this.closing;
      const read = await this.desk.read(file, receive, 1, { signal }).then(
        (art) => ({ paintings: importedArtSchema.parse(art).paintings, fault: null }),
        (error: unknown) => ({ paintings: [], fault: causeOf(error) }),
      );
      this.saved = [{ ...offer, ...read }, ...this.saved.filter((one) => one.file !== file)].slice(
        0,
        MOST_OFFERS,
      );
    } catch (error) {
      if (!this.closing.signal.aborted) logFault(`“${file}” in the watched folder`, error);
    }
  }

  async close(): Promise<void> {
    this.closing.abort(new Error('The server was closed'));
    await this.watcher.close();
    await this.reading;
  }
}
