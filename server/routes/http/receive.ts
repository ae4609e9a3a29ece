import { createWriteStream } from 'node:fs';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Request } from 'express';
import { ProblemError } from '../../faults/problems.ts';

/**
 * Writes the body of a request to a file as it comes, at most `limitBytes` of it: however many send at once, their files
 * never lie in memory. Rejects with ProblemError `too-large`, or `bad-request` where the other side breaks off.
 */
export async function receiveBody(request: Request, path: string, limitBytes: number): Promise<void> {
  const encoding = request.headers['content-encoding'];
  if (encoding !== undefined && encoding !== 'identity')
    throw new ProblemError('bad-request', `A file packed as “${encoding}” is not taken; send it as it is.`, {
      status: 415,
    });
  const tooLarge = () =>
    new ProblemError('too-large', `A file may have ${Math.round(limitBytes / 2 ** 20)} MiB at most.`);
  if (Number(request.headers['content-length'] ?? 0) > limitBytes) throw tooLarge();
  let bytes = 0;
  const counted = new Transform({
    transform: (chunk: Buffer, _encoding, done) => {
      bytes += chunk.length;
      if (bytes > limitBytes) done(tooLarge());
      else done(null, chunk);
    },
  });
  try {
    await pipeline(request, counted, createWriteStream(path, { flags: 'wx' }));
  } catch (error) {
    if (error instanceof Error && 'code' in error && BROKEN_OFF.has(String(error.code)))
      throw new ProblemError('bad-request', 'The request was broken off.');
    throw error;
  }
}

const BROKEN_OFF = new Set(['ECONNRESET', 'ERR_STREAM_PREMATURE_CLOSE', 'ERR_STREAM_DESTROYED']);
