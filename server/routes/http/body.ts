import type { IncomingMessage, ServerResponse } from 'node:http';
import { LARGEST_BODY_BYTES } from '@keen-ridge/core/contract';
import { jsonDepth, unstorablePath } from '@keen-ridge/core/units';
import express, { type NextFunction, type Request, type Response } from 'express';
import { ProblemError } from '../../faults/problems.ts';

/** A scene is some twelve deep; what lies deeper than this would run schemas and patches out of stack. */
const DEEPEST_BODY = 64;
/** Escapes of NUL and of surrogates. UTF-8 as it comes can hold neither half a pair nor, in a text of JSON, a NUL. */
const SUSPECT = /\\u(?:0000|d[89a-f])/i;

/** Requests whose body may hold a text that cannot be kept. */
const suspects = new WeakSet<IncomingMessage>();

function look(request: IncomingMessage, _response: ServerResponse, body: Buffer): void {
  const text = body.toString('utf8');
  if (jsonDepth(text) > DEEPEST_BODY)
    throw new ProblemError('bad-request', `The body is nested more than ${DEEPEST_BODY} deep.`);
  if (SUSPECT.test(text)) suspects.add(request);
}

/** Reads JSON within bounds of size and depth. */
export const readJson = () => express.json({ limit: LARGEST_BODY_BYTES, verify: look });

/** Refuses texts that PostgreSQL would refuse later, and says where they are. */
export function onlyStorable(request: Request, _response: Response, next: NextFunction): void {
  const inBody = suspects.has(request) ? unstorablePath(request.body ?? null) : null;
  const path = inBody ?? unstorablePath({ ...request.query });
  if (path !== null)
    throw new ProblemError(
      'unstorable-text',
      `“${path}” holds half of a character or a control character, which cannot be kept. Type it again.`,
    );
  next();
}
