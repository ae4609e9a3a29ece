// Loaded before a program of ours: its clock goes wrong by as many milliseconds as the file says that
// KEEN_RIDGE_FAULTY_CLOCK names. What does not run in Node keeps the machine's own clock.
import { appendFileSync, readFileSync } from 'node:fs';
import { isMainThread } from 'node:worker_threads';

const path = process.env.KEEN_RIDGE_FAULTY_CLOCK;
const Right = Date;
let wrongByMs = 0;
const look = () => {
  const ms = Number(readFileSync(path, 'utf8'));
  if (ms === wrongByMs) return;
  wrongByMs = ms;
  // For whoever must know that it went wrong here, told once by each process: its threads go by the same file.
  if (!isMainThread) return;
  appendFileSync(`${path}.heard`, `${process.pid} ${Math.round((Date.now() - Right.now()) / 1000)}\n`);
};
globalThis.Date = class extends Right {
  constructor(...args) {
    if (args.length > 0) super(...args);
    else super(Right.now() + wrongByMs);
  }

  static now() {
    return Right.now() + wrongByMs;
  }

  static [Symbol.hasInstance](value) {
    return value instanceof Right;
  }
};

look();
setInterval(look, 200).unref();
