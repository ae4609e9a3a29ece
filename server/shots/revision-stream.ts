import { once } from 'node:events';
import type { Response } from 'express';
import type { Database } from '../db/connection/queryable.ts';
import type { RevisionListener } from '../db/connection/revision-listener.ts';
import { logFault } from '../faults/cause.ts';
import { ProblemError } from '../faults/problems.ts';
import { revisionsAfter } from './history.ts';

/** A silent stream says that it lives: proxies cut connections on which nothing is said for long. */
const SIGN_OF_LIFE_MS = 20_000;

/**
 * Sends the revisions of a shot after one that the window knows, as they come, as server-sent events (WHATWG HTML,
 * section 9.2), until the window goes away. `forgotten` says that the steps are no longer known: read the shot anew.
 */
export function streamRevisions(
  db: Database,
  listener: RevisionListener,
  shotId: string,
  after: number,
  response: Response,
): void {
  response.writeHead(200, { 'Content-Type': 'text/event-stream', 'X-Accel-Buffering': 'no' });
  response.write('retry: 1000\n\n');
  let [known, asked, sending] = [after, false, false];
  const send = async () => {
    asked = true;
    if (sending) return;
    sending = true;
    try {
      while (asked && !response.destroyed) {
        asked = false;
        known = await sendAfter(db, shotId, known, response);
      }
    } catch (error) {
      // What could not be read is read with the next revision, or when the window asks anew.
      if (!response.destroyed) logFault('Revisions could not be sent', error);
      response.destroy();
    } finally {
      sending = false;
    }
  };
  const unfollow = listener.follow(shotId, () => void send());
  const life = setInterval(() => response.write(':\n\n'), SIGN_OF_LIFE_MS);
  response.on('close', () => {
    unfollow();
    clearInterval(life);
  });
  void send();
}

async function sendAfter(db: Database, shotId: string, known: number, response: Response): Promise<number> {
  try {
    for (const step of await revisionsAfter(db, shotId, known)) {
      const more = response.write(`id: ${step.revision}\nevent: revision\ndata: ${JSON.stringify(step)}\n\n`);
      known = step.revision;
      if (!more && !response.destroyed)
        await Promise.race([once(response, 'drain'), once(response, 'close')]);
    }
    return known;
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    // A shot that was deleted meanwhile has nothing more to tell.
    response.end(error.problem.code === 'forgotten' ? 'event: forgotten\ndata: {}\n\n' : undefined);
    return known;
  }
}
