import { type Problem, problemSchema } from '@keen-ridge/core/contract';
import type { z } from 'zod';

/** The server refused, and said why. */
export class ServerRefusal extends Error {
  override readonly name = 'ServerRefusal';
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** Nobody answered: the server or its database is down, or the answer was no answer of ours. */
export class ServerUnreachable extends Error {
  override readonly name = 'ServerUnreachable';

  /** What was wrong with an answer that did come; null where none did. */
  get said(): string | null {
    return this instanceof AnswerUnreadable ? this.message : null;
  }
}

/** Something answered, but nothing that can be read. */
export class AnswerUnreadable extends ServerUnreachable {}

/** Whether the same may work in a moment: nobody answers, or the server met a fault of its own (RFC 9110, section 15.6). */
export const mayPass = (error: unknown): boolean =>
  error instanceof ServerUnreachable || (error instanceof ServerRefusal && error.problem.status >= 500);

/**
 * Why a worker of the page's stopped, by its error event (HTML Standard, “run a worker”): of a program that could not be
 * fetched, from a server that is away or has another version by now, the event says nothing.
 */
export const whyStopped = ({ message }: { readonly message?: string }): string =>
  message || 'A part of the program could not be loaded. If it stays so, reload the page.';

/** The session is over: what waits, waits until somebody has signed in, as it does for a server that is away. */
export class SignedOut extends ServerUnreachable {}

/** What the window is told then. */
export const SIGNED_OUT = 'keen-ridge:signed-out';

/**
 * What the server gives. Throws ServerUnreachable where nobody answers, the signal's own reason where it aborts, and what
 * the answer stands for where it is not what was asked for.
 */
export async function reach(path: string, options: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, options);
  } catch (error) {
    if (options.signal?.aborted) throw error;
    throw new ServerUnreachable('The server does not answer.', { cause: error });
  }
  if (!response.ok) throw refusalFrom(response.status, await wholeOf(response.text()));
  return response;
}

/** Turns an answer into its value; one that cannot be read is no answer. */
export async function readAnswer<S extends z.ZodType>(response: Response, schema: S): Promise<z.infer<S>> {
  const text = response.status === 204 ? 'null' : await wholeOf(response.text());
  const read = schema.safeParse(parseOrNull(text));
  if (read.success) return read.data;
  throw new AnswerUnreadable('The server’s answer cannot be read: it may be of another version.', {
    cause: read.error,
  });
}

/** The body of an answer to its end. */
export async function wholeOf<T>(body: Promise<T>): Promise<T> {
  try {
    return await body;
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new ServerUnreachable('The server’s answer broke off.', { cause: error });
  }
}

export const readBytes = async (path: string, signal?: AbortSignal): Promise<ArrayBuffer> =>
  wholeOf((await reach(path, { signal: signal ?? null })).arrayBuffer());

export function refusalFrom(status: number, body: string): ServerRefusal | ServerUnreachable {
  const problem = problemSchema.safeParse(parseOrNull(body));
  if (problem.success && problem.data.code === 'signed-out') {
    globalThis.dispatchEvent(new Event(SIGNED_OUT));
    return new SignedOut(problem.data.detail);
  }
  if (problem.success && problem.data.code !== 'unavailable') return new ServerRefusal(problem.data);
  return new ServerUnreachable(problem.success ? problem.data.detail : `The server answered ${status}.`);
}

/** The value of a JSON text; null where it is none. */
export function parseOrNull(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    // Whoever asked checks the value by a schema, which null does not pass.
    return null;
  }
}

export async function ask<S extends z.ZodType>(
  schema: S,
  path: string,
  options: { method?: string; body?: unknown; signal?: AbortSignal } = {},
): Promise<z.infer<S>> {
  const { method = 'GET', body, signal } = options;
  const response = await reach(path, {
    method,
    signal: signal ?? null,
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  return readAnswer(response, schema);
}
