import { once } from 'node:events';
import { type AddressInfo, connect, createServer, type Socket } from 'node:net';

/** How a database behaves: as it is, late with every answer, away, or full of others. */
export type Mood =
  | { readonly kind: 'well' | 'refuses' | 'full' }
  | { readonly kind: 'slow'; readonly ms: number };

/** What PostgreSQL says to one connection too many (protocol 3.0, ErrorResponse; SQLSTATE 53300). */
function tooMany(): Buffer {
  const fields = 'SFATAL\0VFATAL\0C53300\0Msorry, too many clients already\0\0';
  const length = Buffer.alloc(4);
  length.writeInt32BE(4 + Buffer.byteLength(fields));
  return Buffer.concat([Buffer.from('E'), length, Buffer.from(fields)]);
}

/** Stands between a program and its PostgreSQL, and lets it be in any mood. */
export class FaultyDatabase {
  mood: Mood = { kind: 'well' };
  private readonly target: URL;
  private readonly open = new Set<Socket>();
  private readonly server = createServer((client) => this.take(client));

  constructor(databaseUrl: string) {
    this.target = new URL(databaseUrl);
  }

  /** The address of the database, as it is reached through this. */
  async listen(): Promise<string> {
    this.server.listen(0, '127.0.0.1');
    await once(this.server, 'listening');
    const url = new URL(this.target);
    url.port = String((this.server.address() as AddressInfo).port);
    return url.href;
  }

  /** Ends every connection that there is, as a restart does. */
  cut(): void {
    for (const socket of this.open) socket.destroy();
  }

  close(): void {
    this.cut();
    this.server.close();
  }

  private take(client: Socket): void {
    this.keep(client);
    if (this.mood.kind === 'refuses') {
      client.destroy();
      return;
    }
    if (this.mood.kind === 'full') {
      client.once('data', () => client.end(tooMany()));
      return;
    }
    const database = connect(Number(this.target.port), this.target.hostname);
    this.keep(database);
    client.pipe(database);
    // Answers come in their order, each as late as the mood is.
    let before: Promise<unknown> = Promise.resolve();
    database.on('data', (part) => {
      const { mood } = this;
      const late = mood.kind === 'slow' ? new Promise((resolve) => setTimeout(resolve, mood.ms)) : null;
      before = Promise.all([before, late]).then(() => client.write(part));
    });
    database.on('close', () => client.destroy());
    client.on('close', () => database.destroy());
  }

  private keep(socket: Socket): void {
    this.open.add(socket);
    socket.on('close', () => this.open.delete(socket));
    socket.on('error', () => socket.destroy());
  }
}
