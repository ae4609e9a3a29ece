import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import { afterAll, describe, expect, it } from 'vitest';
// @ts-expect-error: the scripts that run before anything is installed are plain JavaScript.
import { startCluster } from './lib/cluster.mjs';

const folder = mkdtempSync(join(tmpdir(), 'keen-cluster-'));
// As root PostgreSQL runs as another user, who must be able to get there.
chmodSync(folder, 0o755);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Cluster {
  readonly url: string;
  readonly port: number;
  stop(): void;
}

const askedOf = async (url: string, sql: string): Promise<Record<string, unknown>> => {
  const client = new Client({ connectionString: url });
  client.on('error', () => {});
  await client.connect();
  try {
    return (await client.query(sql)).rows[0];
  } finally {
    await client.end();
  }
};

describe('a PostgreSQL whose first process was killed', () => {
  it('is started again once those that it left behind have ended, with what was committed', async () => {
    const before: Cluster = await startCluster(folder);
    await askedOf(before.url, 'create table kept as select 7 as n');
    const left = new Client({ connectionString: before.url });
    // It is cut off with its server.
    left.on('error', () => {});
    await left.connect();
    const { pid } = (await left.query('select pg_backend_pid() as pid')).rows[0];
    // One that does not notice that it is alone holds on to the memory that they share.
    process.kill(pid, 'SIGSTOP');
    const postmaster = readFileSync(join(folder, 'postgres/cluster/postmaster.pid'), 'utf8').split('\n')[0];
    process.kill(Number(postmaster), 'SIGKILL');
    setTimeout(() => process.kill(pid, 'SIGKILL'), 4000);
    const after: Cluster = await startCluster(folder, { port: before.port });
    try {
      expect(await askedOf(after.url, 'select n from kept')).toEqual({ n: 7 });
    } finally {
      after.stop();
    }
  });
});
