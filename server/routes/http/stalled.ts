import type { NextFunction, Request, Response } from 'express';

/** How long a body may say nothing, ms. Bodies that come may come for hours: an archive is large. */
export const STALLED_MS = 30_000;
const LOOKS = 6;

/** Cuts the connection of a body of which nothing comes any more, so that whoever stops sending holds nothing open. */
export const cutStalled =
  (afterMs = STALLED_MS) =>
  (request: Request, response: Response, next: NextFunction): void => {
    if (request.method === 'GET' || request.method === 'HEAD') {
      next();
      return;
    }
    let [heard, quiet] = [request.socket.bytesRead, 0];
    const timer = setInterval(() => {
      const now = request.socket.bytesRead;
      quiet = now === heard ? quiet + 1 : 0;
      heard = now;
      if (request.complete) clearInterval(timer);
      // What waits to be read here is not the sender's fault.
      else if (quiet >= LOOKS && !request.isPaused()) request.socket.destroy();
    }, afterMs / LOOKS);
    response.on('close', () => clearInterval(timer));
    next();
  };
