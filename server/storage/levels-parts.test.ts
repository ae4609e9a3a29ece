import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { hostname, tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { dropDeadParts, partOf } from './levels-parts.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-parts-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('parts of files', () => {
  // A number that a process of this machine has just had, and none has now.
  const { pid: gone } = spawnSync('true');
  const whole = 'aa.levels';
  const ours = partOf('bb.levels');
  const dead = `cc.levels.${hostname()}.${gone}.x1.part`;
  const elsewhere = `dd.levels.another-${hostname()}.${gone}.x2.part`;
  const there = () => readdirSync(folder).sort();

  beforeEach(() => {
    for (const name of [whole, ours, dead, elsewhere]) writeFileSync(join(folder, name), '');
  });

  it('go with who wrote them, and with nobody else', () => {
    dropDeadParts(folder);
    expect(there()).toEqual([whole, ours, elsewhere].sort());
  });

  it('go before their process does, where it says so', () => {
    dropDeadParts(folder, process.pid);
    expect(there()).toEqual([whole, dead, elsewhere].sort());
  });

  it('are none in a folder that is not there', () => {
    expect(() => dropDeadParts(join(folder, 'nowhere'))).not.toThrow();
  });
});
