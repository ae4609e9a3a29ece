import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { startTestApp, type TestApp } from '../test-app.ts';
import { mutateFiles, type Outcome } from './run.ts';

let app: TestApp;
beforeAll(async () => {
  app = await startTestApp({ renders: false });
});
afterAll(() => app.close());

/** `npm run bench -- mutations` sends as many as one likes. */
const COUNT = 1000;

describe('files that are nearly right', () => {
  it('are taken or refused in a sentence, and leave nothing behind', async () => {
    const said: string[] = [];
    vi.spyOn(console, 'error').mockImplementation((...words) => void said.push(words.join(' ')));
    const outcomes: Outcome[] = [];
    await mutateFiles(app.url, { count: COUNT, seed: 1, abreast: 4 }, (one) => outcomes.push(one));
    vi.restoreAllMocks();
    expect(outcomes.filter(({ fault }) => fault !== null)).toEqual([]);
    // They were changed in many ways, but not beyond all recognition.
    const taken = outcomes.filter(({ status }) => status < 300).length;
    expect(taken).toBeGreaterThan(COUNT / 10);
    expect(COUNT - taken).toBeGreaterThan(COUNT / 4);
    expect(readdirSync(join(app.folder, 'staging'))).toEqual([]);
    expect(existsSync('/tmp/keen-climbed')).toBe(false);
    expect((await fetch(`${app.url}/api/ready`)).status).toBe(200);
    expect(said).toEqual([]);
  }, 600_000);
});
