import { join } from 'node:path';
import type {
  ChangeRequest,
  ImageManifest,
  ImportedArt,
  MergeRequest,
  PlacedArt,
} from '@keen-ridge/core/contract';
import type { ArtId } from '@keen-ridge/core/document';
import type { ArtTask, ArtTaskResult } from '../art/art-tasks.ts';
import { faultSentence } from '../art/art-words.ts';
import type { KeptImage } from '../art/keep-image.ts';
import type { Database, Queryable } from '../db/database.ts';
import { ArtThread } from '../jobs/art-thread.ts';
import { keepArt, readArt } from '../storage/art-store.ts';
import { LevelsFiles } from '../storage/levels-file.ts';
import { notFound, ProblemError } from './problems.ts';

export interface ImportHooks {
  readonly onProgress?: (done: number, total: number, what: string) => void;
  readonly signal?: AbortSignal;
}

/**
 * Everything that brings images in or makes new ones. Images are stored in one transaction with the task: one that
 * fails or is cancelled leaves nothing. No shot is touched: images become planes only by an edit.
 */
export class ArtDesk {
  readonly levels: LevelsFiles;
  private readonly db: Database;
  private readonly thread: ArtThread;
  private readonly making = new Map<string, Promise<void>>();

  constructor(db: Database, dataFolder: string) {
    this.db = db;
    const folder = join(dataFolder, 'levels');
    this.levels = new LevelsFiles(folder);
    this.thread = new ArtThread(folder);
  }

  /** Reads a file. Throws ProblemError `unreadable-art` with a sentence that names file and fault. */
  async read(
    fileName: string,
    bytes: Uint8Array,
    svgScale: number,
    hooks: ImportHooks = {},
  ): Promise<ImportedArt> {
    const result = await this.run({ kind: 'read', fileName, bytes, svgScale }, fileName, hooks);
    if (result.kind !== 'paintings') throw new Error('Reading a file gave no paintings');
    return { paintings: [...result.paintings] };
  }

  /** One image of several layers. */
  async merge({ layers }: MergeRequest): Promise<PlacedArt> {
    const read = await Promise.all(
      layers.toReversed().map(async ({ artId, xPx, yPx, opacity }) => {
        return { png: (await this.stored(artId)).png, xPx, yPx, opacity };
      }),
    );
    return this.one({ kind: 'merge', layers: read });
  }

  /** The image after a change of its pixels. */
  async change(artId: ArtId, change: ChangeRequest): Promise<PlacedArt> {
    const { png } = await this.stored(artId);
    return this.one({ ...change, png });
  }

  /** Stores straight RGBA that was made elsewhere. */
  encode(pixels: Uint8Array, widthPx: number, heightPx: number): Promise<PlacedArt> {
    return this.one({ kind: 'encode', pixels, widthPx, heightPx });
  }

  /** The levels of stored art; they are made now where they are missing. */
  async manifest(artId: ArtId): Promise<ImageManifest> {
    const known = await this.levels.index(artId);
    if (known) return known.manifest;
    const under = this.making.get(artId) ?? this.makeLevels(artId);
    this.making.set(artId, under);
    await under.finally(() => this.making.delete(artId));
    const made = await this.levels.index(artId);
    if (!made) throw new Error(`The levels of art ${artId} could not be made`);
    return made.manifest;
  }

  private async makeLevels(artId: ArtId): Promise<void> {
    const { png } = await this.stored(artId);
    await this.thread.run({ kind: 'levels', png }, { onImage: () => {} });
  }

  private async one(task: ArtTask): Promise<PlacedArt> {
    const result = await this.run(task, 'The image', {});
    if (result.kind !== 'image') throw new Error('The task gave no image');
    const { image, xPx, yPx } = result;
    return { art: image.art, look: [...image.look], xPx, yPx };
  }

  private async stored(artId: ArtId): Promise<{ png: Uint8Array }> {
    const stored = await readArt(this.db, artId);
    if (!stored) throw notFound('This art');
    return stored;
  }

  private run(task: ArtTask, fileName: string, { onProgress, signal }: ImportHooks): Promise<ArtTaskResult> {
    return this.db.transaction(async (tx) => {
      const kept: Promise<void>[] = [];
      let lastKept: Promise<void> = Promise.resolve();
      const onImage = (image: KeptImage, png: Uint8Array) => {
        lastKept = lastKept.then(() => keep(tx, image, png));
        // Told of at the end; a failure must not count as unhandled before.
        lastKept.catch(() => {});
        kept.push(lastKept);
      };
      const result = await this.thread.run(task, {
        onImage,
        ...(onProgress ? { onProgress } : {}),
        ...(signal ? { signal } : {}),
      });
      if (!result.ok) throw new ProblemError('unreadable-art', faultSentence(fileName, result.error));
      await Promise.all(kept);
      return result.value;
    });
  }

  close(): void {
    this.thread.close();
  }
}

const keep = (tx: Queryable, { art, look }: KeptImage, png: Uint8Array): Promise<void> =>
  keepArt(tx, art, look, png);
