import type { Problem, ProblemCode } from '@keen-ridge/core/contract';
import { firstFault } from '@keen-ridge/core/scene';
import type { NextFunction, Request, Response } from 'express';
import { ZodError } from 'zod';
import { isDatabaseGone } from '../../db/connection/database-gone.ts';
import { isDiskFull, logFault } from '../../faults/cause.ts';
import { ProblemError } from '../../faults/problems.ts';

/** Every refusal leaves as problem details (RFC 9457); what we did not expect is logged and told without inner parts. */
export function answerProblem(
  error: unknown,
  _request: Request,
  response: Response,
  next: NextFunction,
): void {
  const problem = problemOf(error);
  if (response.headersSent) {
    // Too late for words: the connection is cut, so that a part is not taken for the whole.
    response.destroy();
    next();
    return;
  }
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

/** What a client is told of an error; an unexpected one is logged. */
export const problemOf = (error: unknown): Problem => asProblem(error).problem;

function asProblem(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error;
  if (error instanceof DOMException && error.name === 'AbortError')
    return new ProblemError('bad-request', 'It was cancelled.');
  if (error instanceof ZodError) return new ProblemError('bad-request', firstFault(error));
  const asked = requestFault(error);
  if (asked) return asked;
  if (isDatabaseGone(error))
    return new ProblemError('unavailable', 'The database does not answer just now; it is tried again.');
  if (isDiskFull(error)) {
    logFault('No room', error);
    return new ProblemError('disk-full', 'The disk is full. Make room, then try again.');
  }
  logFault('A request met a fault', error);
  return new ProblemError(
    'internal',
    'The server met an unexpected fault. What was saved before is safe; please try again.',
  );
}

/** Words for what the body parser says; its other types say theirs. */
const BODY_FAULTS: Readonly<Record<string, readonly [ProblemCode, string]>> = {
  'request.aborted': ['bad-request', 'The request was broken off.'],
  'entity.too.large': ['too-large', 'The request is larger than this address takes.'],
  'entity.parse.failed': ['bad-request', 'The body is not valid JSON.'],
  'encoding.unsupported': ['bad-request', 'The body is packed in a way that is not known here.'],
  'charset.unsupported': ['bad-request', 'The body is in a character set that is not known here.'],
};

/** What Express and its parsers found wrong with the request itself: they give the error a status of 4xx. */
function requestFault(error: unknown): ProblemError | null {
  if (!(error instanceof Error) || !('status' in error) || typeof error.status !== 'number') return null;
  const { status } = error;
  if (status < 400 || status > 499) return null;
  const type = 'type' in error ? String(error.type) : '';
  const [code, detail] = BODY_FAULTS[type] ?? [
    status === 404 ? 'not-found' : status === 413 ? 'too-large' : 'bad-request',
    status === 404
      ? 'This address does not exist.'
      : status === 416
        ? 'There is no such part of the file.'
        : 'The request cannot be understood.',
  ];
  return new ProblemError(code, detail, { status });
}
