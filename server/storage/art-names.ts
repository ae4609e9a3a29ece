import { createHash } from 'node:crypto';
import { type ArtId, artIdSchema } from '@keen-ridge/core/scene';

/** The name of an image: the SHA-256 of its PNG. */
export const artIdOf = (png: Uint8Array): ArtId =>
  artIdSchema.parse(createHash('sha256').update(png).digest('hex'));

/** File of an image in the folder of the task that brings it. */
export const stagedPng = (id: ArtId): string => `${id}.png`;
