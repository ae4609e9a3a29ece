import { once } from 'node:events';
import type { Response } from 'express';
import { pause } from '../../db/connection/database-gone.ts';
import type { RevisionListener } from '../../db/connection/revision-listener.ts';
import { logFault } from '../../faults/cause.ts';
import { ProblemError } from '../../faults/problems.ts';
import type { Presence } from '../../people/presence.ts';
import type { NewestSteps, ToldStep } from './newest-steps.ts';

/** How long steps that come after another are gathered: a drag of somebody else is seen ten times a second. */
const TOGETHER_MS = 100;

/** A silent stream says that it lives: proxies cut connections on which nothing is said for long. */
const SIGN_OF_LIFE_MS = 20_000;

interface StreamParts {
  readonly newest: NewestSteps;
  readonly listener: RevisionListener;
  readonly presence: Presence;
}

/**
 * Sends the revisions of a shot after one that the window knows, as they come, as server-sent events (WHATWG HTML,
 * section 9.2), until the window goes away, and in which windows the shot is open. `forgotten` says that the steps are no
 * longer known: read the shot anew.
 */
export function streamRevisions(
  { newest, listener, presence }: StreamParts,
  shotId: string,
  after: number,
  response: Response,
): void {
  response.writeHead(200, { 'Content-Type': 'text/event-stream', 'X-Accel-Buffering': 'no' });
  response.write('retry: 1000\n\n');
  let [known, asked, sending] = [after, false, false];
  const gone = new AbortController();
  const send = async () => {
    asked = true;
    if (sending) return;
    sending = true;
    try {
      while (asked && !response.destroyed) {
        asked = false;
        known = await sendAfter(newest, shotId, known, response);
        // The first is told at once; of many that follow one another several go together.
        if (!response.destroyed) await pause(TOGETHER_MS, gone.signal);
      }
    } catch (error) {
      // What could not be read is read with the next revision, or when the window asks anew.
      if (!response.destroyed) logFault('Revisions could not be sent', error);
      response.destroy();
    } finally {
      sending = false;
    }
  };
  const release = newest.hold(shotId);
  const unfollow = listener.follow(shotId, () => void send());
  const tellPresent = () => {
    response.write(`event: present\ndata: ${JSON.stringify(presence.in(shotId))}\n\n`);
  };
  const unfollowPresent = presence.follow(shotId, tellPresent);
  tellPresent();
  const life = setInterval(() => response.write(':\n\n'), SIGN_OF_LIFE_MS);
  response.on('close', () => {
    gone.abort();
    unfollow();
    release();
    unfollowPresent();
    clearInterval(life);
  });
  void send();
}

/** Characters of steps that are written at once. */
const WRITTEN_TOGETHER = 2 ** 16;

/** Small steps that follow one another as one: each write costs as much as what it carries. */
function joined(steps: readonly ToldStep[]): ToldStep[] {
  const parts: { revision: number; text: string }[] = [];
  for (const { revision, text } of steps) {
    const last = parts.at(-1);
    if (!last || last.text.length + text.length > WRITTEN_TOGETHER) parts.push({ revision, text });
    else parts[parts.length - 1] = { revision, text: last.text + text };
  }
  return parts;
}

async function sendAfter(
  newest: NewestSteps,
  shotId: string,
  known: number,
  response: Response,
): Promise<number> {
  try {
    for (const { revision, text } of joined(await newest.after(shotId, known))) {
      const more = response.write(text);
      known = revision;
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
