import type { Problem } from '@keen-ridge/core/contract';
import { firstFault } from '@keen-ridge/core/document';
import type { NextFunction, Request, Response } from 'express';
import { ZodError } from 'zod';
import { ProblemError } from '../services/problems.ts';

/** Every refusal leaves as problem details (RFC 9457); what we did not expect is logged and told without inner parts. */
export function answerProblem(
  error: unknown,
  _request: Request,
  response: Response,
  next: NextFunction,
): void {
  if (response.headersSent) {
    next(error);
    return;
  }
  const problem = problemOf(error);
  response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}

/** What a client is told of an error; an unexpected one is logged. */
export const problemOf = (error: unknown): Problem => asProblem(error).problem;

function asProblem(error: unknown): ProblemError {
  if (error instanceof ProblemError) return error;
  if (error instanceof DOMException && error.name === 'AbortError')
    return new ProblemError('bad-request', 'It was cancelled.');
  if (error instanceof ZodError) return new ProblemError('bad-request', firstFault(error));
  if (hasType(error)) {
    if (error.type === 'request.aborted')
      return new ProblemError('bad-request', 'The request was broken off.');
    if (error.type === 'entity.too.large')
      return new ProblemError('too-large', 'The request is larger than this address takes.');
    if (error.type === 'entity.parse.failed')
      return new ProblemError('bad-request', 'The body is not valid JSON.');
  }
  console.error(error);
  return new ProblemError(
    'internal',
    'The server met an unexpected fault. What was saved before is safe; please try again.',
  );
}

const hasType = (error: unknown): error is { type: string } =>
  typeof error === 'object' && error !== null && 'type' in error && typeof error.type === 'string';
