import { randomUUID } from 'node:crypto';
import { mkdirSync, rmSync } from 'node:fs';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { ImportedArt } from '@keen-ridge/core/art/landing';
import type { ChangeRequest, MergeRequest, PlacedArt } from '@keen-ridge/core/contract';
import type { ArtId } from '@keen-ridge/core/scene';
import type { ArtTask, ArtTaskResult } from '../art/art-tasks.ts';
import { faultSentence } from '../art/art-words.ts';
import { artIdOf, type KeptImage, stagedPng } from '../art/keep-image.ts';
import type { ReadShot } from '../art/read-package.ts';
import { keepArt, readArt, storedOf } from '../db/art.ts';
import type { Database } from '../db/connection/queryable.ts';
import { logFault } from '../faults/cause.ts';
import { notFound, ProblemError } from '../faults/problems.ts';
import { ArtLevels, ArtUnreadable } from '../storage/art-levels.ts';
import { LevelsFiles } from '../storage/levels-file.ts';
import { dropDeadParts } from '../storage/levels-parts.ts';
import { type ArtLimits, ArtProcesses } from '../threads/art-processes.ts';

export interface ImportHooks {
  readonly onProgress?: (done: number, total: number, what: string) => void;
  readonly signal?: AbortSignal;
}

/** Writes a file that was sent to `path`. */
export type Receive = (path: string) => Promise<void>;

/**
 * Everything that brings images in or makes new ones. What comes and what is made of it lies in a folder of the task's
 * own until the task is done; then all images are stored in one transaction that does nothing else. A task that fails
 * or is cancelled leaves nothing. No shot is touched: images become planes only by an edit.
 */
export class ArtDesk {
  readonly levels: ArtLevels;
  private readonly db: Database;
  private readonly processes: ArtProcesses;
  private readonly staging: string;
  /** Folders of tasks that are done, until they are cleared away. */
  private readonly done = new Set<string>();

  constructor(db: Database, dataFolder: string, limits: Partial<ArtLimits> = {}) {
    this.db = db;
    this.staging = join(dataFolder, 'staging');
    // What an earlier run left half-way: nobody else works in this folder.
    rmSync(this.staging, { recursive: true, force: true });
    mkdirSync(this.staging, { recursive: true });
    const files = new LevelsFiles(join(dataFolder, 'levels'));
    dropDeadParts(files.folder);
    this.processes = new ArtProcesses(files.folder, limits);
    this.levels = new ArtLevels(
      files,
      async (artId) => (await readArt(db, artId))?.png ?? null,
      (artId, png) => this.makeLevels(artId, png),
    );
  }

  /** Makes ready for the first file. */
  warm(): void {
    this.processes.warm();
  }

  /** Reads a file. Throws ProblemError `unreadable-art` with a sentence that names file and fault. */
  async read(fileName: string, receive: Receive, svgScale: number, hooks: ImportHooks): Promise<ImportedArt> {
    const result = await this.run(fileName, hooks, async (folder) => {
      const path = join(folder, 'file');
      await receive(path);
      return { kind: 'read', fileName, path, svgScale };
    });
    if (result.kind !== 'paintings') throw new Error('Reading a file gave no paintings');
    return { paintings: [...result.paintings] };
  }

  /** The shot of an open package, whose art is stored then. Throws ProblemError `unreadable-art`. */
  async readPackage(fileName: string, receive: Receive, hooks: ImportHooks): Promise<ReadShot> {
    const result = await this.run(fileName, hooks, async (folder) => {
      const path = join(folder, 'file');
      await receive(path);
      return { kind: 'package', path };
    });
    if (result.kind !== 'shot') throw new Error('Reading a package gave no shot');
    return { scene: result.scene, leftOut: result.leftOut, sound: result.sound };
  }

  /**
   * Keeps an image that came from another store under its id, looked at as any from outside; one that is there already is
   * not looked at again. A sentence of what is wrong with it; null where nothing is.
   */
  async takeIn(artId: ArtId, png: Uint8Array, signal: AbortSignal): Promise<string | null> {
    if (artIdOf(png) !== artId) return 'is damaged: its SHA-256 differs';
    if ((await storedOf(this.db, [artId])).has(artId)) return null;
    try {
      await this.run(artId, { signal }, async (folder) => {
        const path = join(folder, 'taken.png');
        await writeFile(path, png);
        return { kind: 'levels', name: artId, path };
      });
      return null;
    } catch (error) {
      if (!(error instanceof ProblemError) || error.problem.code !== 'unreadable-art') throw error;
      return 'cannot be read as an image';
    }
  }

  /** A folder of its own for something that is worked on; gone when the work is done. */
  working<T>(work: (folder: string) => Promise<T>): Promise<T> {
    return this.inFolder(work);
  }

  /** One image of several layers. */
  merge({ layers }: MergeRequest): Promise<PlacedArt> {
    return this.one(async (folder) => {
      const placed = [];
      for (const { artId, ...place } of layers.toReversed())
        placed.push({ path: await this.stage(folder, artId), ...place });
      return { kind: 'merge', layers: placed };
    });
  }

  /** The image after a change of its pixels. */
  change(artId: ArtId, change: ChangeRequest): Promise<PlacedArt> {
    return this.one(async (folder) => ({ ...change, path: await this.stage(folder, artId) }));
  }

  /** Stores straight RGBA that was made elsewhere. */
  encode(receive: Receive, widthPx: number, heightPx: number): Promise<PlacedArt> {
    return this.one(async (folder) => {
      const path = join(folder, 'pixels');
      await receive(path);
      return { kind: 'encode', path, widthPx, heightPx };
    });
  }

  private async makeLevels(artId: ArtId, png: Uint8Array): Promise<void> {
    const made = await this.inFolder(async (folder) => {
      const path = join(folder, 'stored.png');
      await writeFile(path, png);
      return this.processes.run(
        { task: { kind: 'levels', name: artId, path }, folder },
        { onImage: () => {} },
      );
    });
    if (!made.ok) throw new ArtUnreadable(artId, `is damaged in the store: ${made.error.detail}`);
  }

  private async one(prepare: (folder: string) => Promise<ArtTask>): Promise<PlacedArt> {
    const result = await this.run('The image', {}, prepare);
    if (result.kind !== 'image') throw new Error('The task gave no image');
    const { image, xPx, yPx } = result;
    return { art: image.art, likeness: [...image.likeness], xPx, yPx };
  }

  /** Copies stored art into a task's folder. */
  private async stage(folder: string, artId: ArtId): Promise<string> {
    const stored = await readArt(this.db, artId);
    if (!stored) throw notFound('This art');
    const path = join(folder, `stored-${artId}.png`);
    await writeFile(path, stored.png);
    return path;
  }

  private run(
    fileName: string,
    { onProgress, signal }: ImportHooks,
    prepare: (folder: string) => Promise<ArtTask>,
  ): Promise<ArtTaskResult> {
    return this.inFolder(async (folder) => {
      const task = await prepare(folder);
      const images: KeptImage[] = [];
      const result = await this.processes.run(
        { task, folder },
        { onImage: (image) => images.push(image), ...(onProgress ? { onProgress } : {}), signal },
      );
      if (!result.ok) throw new ProblemError('unreadable-art', faultSentence(fileName, result.error));
      signal?.throwIfAborted();
      await this.store(images, folder);
      return result.value;
    });
  }

  /** All images or none. */
  private async store(images: readonly KeptImage[], folder: string): Promise<void> {
    const once = new Map(images.map((image) => [image.art.id, image]));
    await this.db.transaction(async (tx) => {
      for (const { art, likeness } of once.values())
        await keepArt(tx, art, likeness, await readFile(join(folder, stagedPng(art.id))));
    });
  }

  private async inFolder<T>(work: (folder: string) => Promise<T>): Promise<T> {
    const folder = join(this.staging, randomUUID());
    await mkdir(folder, { recursive: true });
    try {
      return await work(folder);
    } finally {
      this.done.add(folder);
      await this.clearAway();
    }
  }

  /** A disk that cannot be written just now fails no task that is done: what it keeps is cleared away after the next. */
  private async clearAway(): Promise<void> {
    for (const folder of this.done) {
      try {
        await rm(folder, { recursive: true, force: true });
        this.done.delete(folder);
      } catch (error) {
        logFault('The folder of a task that is done cannot be cleared away yet', error);
      }
    }
  }

  close(): void {
    this.processes.close();
  }
}
