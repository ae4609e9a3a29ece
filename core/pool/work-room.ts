import { once, type StopSignal } from '../kernel/memory/index.ts';

interface Waiting {
  readonly bytes: number;
  readonly admit: () => void;
}

/**
 * Room for what pictures under way take: as many as fit into `mostBytes`, first come, first served; one that is alone
 * has it however large it is.
 */
export class WorkRoom {
  private readonly mostBytes: number;
  private readonly waiting: Waiting[] = [];
  private held = 0;

  constructor(mostBytes: number) {
    this.mostBytes = mostBytes;
  }

  /** Resolves with what gives the room back. Rejects with the signal's reason when it aborts while waiting. */
  async take(bytes: number, signal?: StopSignal): Promise<() => void> {
    signal?.throwIfAborted();
    if (this.waiting.length > 0 || !this.fits(bytes)) await this.turn(bytes, signal);
    else this.held += bytes;
    return once(() => {
      this.held -= bytes;
      this.admitNext();
    });
  }

  private fits(bytes: number): boolean {
    return this.held === 0 || this.held + bytes <= this.mostBytes;
  }

  /** Waits its turn; the room is its own when it comes. */
  private turn(bytes: number, signal: StopSignal | undefined): Promise<void> {
    return new Promise((resolve, reject) => {
      const end = () => signal?.removeEventListener('abort', leave);
      const one: Waiting = {
        bytes,
        admit: () => {
          end();
          resolve();
        },
      };
      const leave = () => {
        end();
        this.waiting.splice(this.waiting.indexOf(one), 1);
        reject(signal?.reason);
        // Whoever waited behind it may have room.
        this.admitNext();
      };
      this.waiting.push(one);
      signal?.addEventListener('abort', leave);
    });
  }

  private admitNext(): void {
    for (let next = this.waiting[0]; next && this.fits(next.bytes); next = this.waiting[0]) {
      this.waiting.shift();
      this.held += next.bytes;
      next.admit();
    }
  }
}
