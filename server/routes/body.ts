import type { IncomingMessage, ServerResponse } from 'node:http';
import { jsonDepth, unstorablePath } from '@keen-ridge/core/units';
import type { NextFunction, Request, Response } from 'express';
import { ProblemError } from '../services/problems.ts';

export const LARGEST_BODY = '24mb';
/** A scene is some twelve deep; what lies deeper than this would run schemas and patches out of stack. */
const DEEPEST_BODY = 64;

/** Looks at a body before it is parsed. */
export function notTooDeep(_request: IncomingMessage, _response: ServerResponse, body: Buffer): void {
  if (jsonDepth(body.toString('utf8')) > DEEPEST_BODY)
    throw new ProblemError('bad-request', `The body is nested more than ${DEEPEST_BODY} deep.`);
}

/** Refuses texts that PostgreSQL would refuse later, and says where they are. */
export function onlyStorable(request: Request, _response: Response, next: NextFunction): void {
  const path = unstorablePath(request.body ?? null) ?? unstorablePath({ ...request.query });
  if (path !== null)
    throw new ProblemError(
      'unstorable-text',
      `“${path}” holds half of a character or a control character, which cannot be kept. Type it again.`,
    );
  next();
}
