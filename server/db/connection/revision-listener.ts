import { EventEmitter } from 'node:events';
import { Client } from 'pg';
import { logFault } from '../../faults/cause.ts';
import { CHANNELS, type Channel } from './channels.ts';
import { pause } from './database-gone.ts';

const AGAIN_MS = 1000;

/**
 * Hears of every new revision of any shot, whichever server made it, and of what else servers tell one another, on a
 * connection of its own. After a lost connection
 * every listener is called once: something may have been missed meanwhile.
 */
export class RevisionListener {
  private readonly url: string;
  private readonly heard = new EventEmitter().setMaxListeners(0);
  private readonly told = new EventEmitter();
  private readonly closing = new AbortController();
  private client: Client | null = null;
  private running: Promise<void> = Promise.resolve();

  constructor(url: string) {
    this.url = url;
  }

  start(): void {
    this.running = this.run();
  }

  /** Calls `onRevision` whenever there may be a new revision of the shot, until the returned function is called. */
  follow(shotId: string, onRevision: () => void): () => void {
    this.heard.on(shotId, onRevision);
    return () => this.heard.off(shotId, onRevision);
  }

  /** Calls `onTold` with whatever is said on a channel, from now on. */
  hear(channel: Channel, onTold: (text: string) => void): void {
    this.told.on(channel, onTold);
  }

  async close(): Promise<void> {
    this.closing.abort();
    await this.client?.end();
    await this.running;
  }

  private async run(): Promise<void> {
    while (!this.closing.signal.aborted) {
      try {
        await this.listen();
      } catch (error) {
        if (!this.closing.signal.aborted)
          logFault('New revisions cannot be heard of; it is tried again', error);
      }
      await pause(AGAIN_MS, this.closing.signal);
    }
  }

  /** Resolves when the connection is closed, rejects when it is lost. */
  private async listen(): Promise<void> {
    const client = new Client({ connectionString: this.url, keepAlive: true });
    this.client = client;
    const over = new Promise<void>((resolve, reject) => {
      client.on('error', reject);
      client.on('end', resolve);
    });
    client.on('notification', ({ channel, payload }) => {
      if (!payload) return;
      if (channel === CHANNELS.revision) this.heard.emit(payload);
      if (channel === CHANNELS.presence) this.told.emit('presence', payload);
    });
    try {
      await Promise.race([client.connect(), over]);
      for (const channel of Object.values(CHANNELS))
        await Promise.race([client.query(`listen ${channel}`), over]);
      for (const shotId of this.heard.eventNames()) this.heard.emit(shotId);
      await over;
    } finally {
      this.client = null;
      await client.end().catch(() => undefined);
    }
  }
}
