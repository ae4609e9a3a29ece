import { once } from 'node:events';
import { createServer, type IncomingMessage, request, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Random } from '../../server/testing/mutations/random.ts';
import { pause } from './asking.ts';

/** What becomes of a request and its answer on the way. */
const FATES = ['asked in vain', 'answer lost', 'doubled', 'late', 'cut'] as const;
export type Fate = (typeof FATES)[number];

/** How many of ten requests come through as they should. */
const FINE_OF_TEN = 5;
const LATEST_MS = 1200;

interface Answer {
  readonly status: number;
  readonly headers: IncomingMessage['headers'];
  readonly body: Buffer;
}

/** A bad network between people and a server: it loses, doubles, delays and cuts, and counts what it did. */
export class FaultyNetwork {
  readonly done: Record<Fate, number> = { 'asked in vain': 0, 'answer lost': 0, doubled: 0, late: 0, cut: 0 };
  private readonly server = createServer((asked, answer) => void this.carry(asked, answer));
  private readonly target: () => string;
  private readonly random: Random;

  constructor(target: () => string, random: Random) {
    this.target = target;
    this.random = random;
  }

  get url(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  async open(): Promise<void> {
    this.server.listen(0, '127.0.0.1');
    await once(this.server, 'listening');
  }

  close(): void {
    this.server.close();
    this.server.closeAllConnections();
  }

  private async carry(asked: IncomingMessage, answer: ServerResponse): Promise<void> {
    try {
      const parts: Buffer[] = [];
      for await (const part of asked) parts.push(part as Buffer);
      const body = Buffer.concat(parts);
      const fate = this.random.below(10) < FINE_OF_TEN ? null : this.random.pick(FATES);
      if (fate) this.done[fate] += 1;
      if (fate === 'asked in vain') return void answer.destroy();
      if (fate === 'late') await pause(this.random.next() * LATEST_MS);
      const twice = fate === 'doubled' ? [this.forward(asked, body), this.forward(asked, body)] : [];
      const got = await (twice[0] ?? this.forward(asked, body));
      await Promise.all(twice);
      if (fate === 'answer lost') return void answer.destroy();
      answer.writeHead(got.status, got.headers);
      if (fate !== 'cut') return void answer.end(got.body);
      answer.write(got.body.subarray(0, Math.floor(got.body.length / 2)), () => answer.destroy());
    } catch {
      // The server behind it is away: so is the network.
      answer.destroy();
    }
  }

  private forward(asked: IncomingMessage, body: Buffer): Promise<Answer> {
    const target = new URL(asked.url ?? '/', this.target());
    const headers = { ...asked.headers, host: target.host };
    return new Promise((resolve, reject) => {
      const sent = request(target, { method: asked.method, headers }, (response) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () =>
          resolve({
            status: response.statusCode ?? 500,
            headers: response.headers,
            body: Buffer.concat(parts),
          }),
        );
        response.on('error', reject);
      });
      sent.on('error', reject);
      sent.end(body);
    });
  }
}
