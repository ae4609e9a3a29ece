import type { Problem, ProblemCode } from '@keen-ridge/core/contract';

const TITLES: Readonly<Record<ProblemCode, { status: number; title: string }>> = {
  'not-found': { status: 404, title: 'Not found' },
  'bad-request': { status: 400, title: 'The request cannot be understood' },
  'too-large': { status: 413, title: 'Too large' },
  'foreign-host': { status: 403, title: 'Not one of this server’s names' },
  'foreign-origin': { status: 403, title: 'The request comes from another site' },
  'signed-out': { status: 401, title: 'Sign in first' },
  'not-known': { status: 401, title: 'Not signed in' },
  'not-allowed': { status: 403, title: 'Not yours to do' },
  'too-often': { status: 429, title: 'Too many tries' },
  conflict: { status: 409, title: 'Somebody else has changed the same' },
  forgotten: { status: 410, title: 'Too long ago' },
  'edit-refused': { status: 422, title: 'The edit does not fit the shot' },
  'unreadable-art': { status: 422, title: 'The file cannot be read' },
  'nothing-to-undo': { status: 409, title: 'Nothing to undo or redo' },
  'film-tool-missing': { status: 503, title: 'Films cannot be made on this machine yet' },
  'not-ready': { status: 409, title: 'Not ready yet' },
  'unstorable-text': { status: 422, title: 'A text that cannot be stored' },
  'disk-full': { status: 503, title: 'The disk is full' },
  busy: { status: 503, title: 'Too much at once' },
  unavailable: { status: 503, title: 'The database does not answer' },
  internal: { status: 500, title: 'Something went wrong on the server' },
};

/** A refusal that reaches the client as problem details (RFC 9457). */
export class ProblemError extends Error {
  override readonly name = 'ProblemError';
  readonly problem: Problem;

  constructor(
    code: ProblemCode,
    detail: string,
    more: { conflict?: Problem['conflict']; status?: number } = {},
  ) {
    super(detail);
    this.problem = { type: `urn:keen-ridge:problem:${code}`, ...TITLES[code], detail, code, ...more };
  }
}

export const notFound = (what: string): ProblemError =>
  new ProblemError('not-found', `${what} does not exist or was deleted.`);
