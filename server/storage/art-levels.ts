import { promisify } from 'node:util';
import { inflate } from 'node:zlib';
import type { ImageManifest } from '@keen-ridge/core/contract';
import type { ChunkRect, StreamSource } from '@keen-ridge/core/kernel/memory';
import { artOfEdge } from '@keen-ridge/core/picture';
import type { ArtId } from '@keen-ridge/core/scene';
import { decodeForLevels } from '../art/decode.ts';
import type { LevelsFiles } from './levels-file.ts';

const inflated = promisify(inflate);

/** Art that cannot be drawn, by its id: it is missing from the store, or its pixels are damaged. */
export class ArtUnreadable extends Error {
  override readonly name = 'ArtUnreadable';
  readonly artId: ArtId;

  constructor(artId: ArtId, why: string) {
    super(`Art ${artId} ${why}`);
    this.artId = artId;
  }
}

/** PNG of stored art; null where there is none. */
export type ReadPng = (artId: ArtId) => Promise<Uint8Array | null>;
/** Makes the levels of an image and leaves them in the files. Rejects with ArtUnreadable where its pixels are damaged. */
export type MakeLevels = (artId: ArtId, png: Uint8Array) => Promise<void>;

const NOT_KEPT = 'has levels that cannot be kept';
/** How often levels that are damaged or vanish are made again before that counts as a fault. */
const TRIES = 3;

/** The levels of stored art, made where they are missing or damaged: what the live picture and the renderer read. */
export class ArtLevels {
  readonly files: LevelsFiles;
  private readonly read: ReadPng;
  private readonly make: MakeLevels;
  private readonly making = new Map<ArtId, Promise<void>>();

  constructor(files: LevelsFiles, read: ReadPng, make: MakeLevels = levelsHere(files)) {
    this.files = files;
    this.read = read;
    this.make = make;
  }

  /** Sizes and tile maps. Rejects with ArtUnreadable. */
  async manifest(artId: ArtId): Promise<ImageManifest> {
    for (let tries = 0; tries < TRIES; tries++) {
      const known = await this.files.index(artId);
      if (known) return known.manifest;
      await this.made(artId);
    }
    throw new ArtUnreadable(artId, NOT_KEPT);
  }

  /** Chunks as LevelsFiles gives them; null where the image has no such part. Rejects with ArtUnreadable. */
  async chunks(artId: ArtId, level: number, rect: ChunkRect): Promise<Buffer | null> {
    for (let tries = 0; tries < TRIES; tries++) {
      await this.manifest(artId);
      const chunks = await this.files.chunks(artId, level, rect);
      if (chunks !== 'gone') return chunks;
    }
    throw new ArtUnreadable(artId, NOT_KEPT);
  }

  /** The same as the render pool reads it. */
  source(artId: ArtId): StreamSource {
    return {
      levels: async () => {
        const { texelBytes, levels } = await this.manifest(artId);
        return Promise.all(
          levels.map(async ({ widthPx, heightPx, tiles }) => ({
            widthPx,
            heightPx,
            texelBytes,
            tiles: new Uint8Array(await inflated(Buffer.from(tiles, 'base64'))),
          })),
        );
      },
      chunks: async (level, rect) => {
        const chunks = await this.chunks(artId, level, rect);
        if (!chunks) throw new ArtUnreadable(artId, `has no such part of level ${level}`);
        // A buffer of its own, since it is handed over to a thread.
        return new Uint8Array(chunks);
      },
    };
  }

  /**
   * Makes the levels of an older version again, one image after another, until all are made or `signal` ends it: what is
   * asked for meanwhile is made first. Levels whose art has gone are taken away.
   */
  async renew(signal: AbortSignal): Promise<void> {
    for (const artId of await this.files.stored()) {
      if (signal.aborted) return;
      try {
        await this.manifest(artId);
      } catch (error) {
        if (!(error instanceof ArtUnreadable)) throw error;
        if (!signal.aborted) await this.files.drop(artId);
      }
    }
  }

  private made(artId: ArtId): Promise<void> {
    const under = this.making.get(artId) ?? this.makeNow(artId).finally(() => this.making.delete(artId));
    this.making.set(artId, under);
    return under;
  }

  private async makeNow(artId: ArtId): Promise<void> {
    const png = await this.read(artOfEdge(artId)?.artId ?? artId);
    if (!png) throw new ArtUnreadable(artId, 'is missing or damaged in the store');
    await this.make(artId, png);
  }
}

/** Makes levels in this very process: for workers and the command line, which answer nobody meanwhile. */
const levelsHere =
  (files: LevelsFiles): MakeLevels =>
  async (artId, png) => {
    const pixels = await decodeForLevels(artId, png);
    if (!pixels.ok) throw new ArtUnreadable(artId, `is damaged in the store: ${pixels.error.detail}`);
    await files.write(artId, pixels.value);
  };
