import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { LARGEST_BODY_BYTES, LARGEST_UPLOAD_BYTES } from '@keen-ridge/core/contract';
import { LARGEST_ARCHIVE_BYTES } from '@keen-ridge/core/contract/archive';
import { LARGEST_SOUND_BYTES } from '@keen-ridge/core/contract/sound';
import { LIMITS } from '@keen-ridge/core/scene';
import { afterAll, describe, expect, it } from 'vitest';
import { LARGEST_PIXELS } from '../art/decode.ts';
import { STALLED_MS } from '../routes/http/stalled.ts';
import { isLoopback, readSettings, SettingsFault } from './settings.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-settings-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const fileOf = (content: string): string => {
  const path = join(folder, 'settings.json');
  writeFileSync(path, content);
  return path;
};

describe('settings', () => {
  it('are of this machine alone where nothing is said', () => {
    expect(readSettings('/nowhere', {})).toMatchObject({
      host: '127.0.0.1',
      names: [],
      signIn: false,
      proxy: false,
    });
  });

  it('come from the file, over which the environment stands', () => {
    fileOf('{"host":"0.0.0.0","names":["keen.example"],"port":80}');
    expect(readSettings(folder, {})).toMatchObject({ host: '0.0.0.0', port: 80, names: ['keen.example'] });
    const env = { PORT: '81', KEEN_RIDGE_NAMES: 'a.example, b.example' };
    expect(readSettings(folder, env)).toMatchObject({ port: 81, names: ['a.example', 'b.example'] });
  });

  it('ask people to sign in wherever others reach the server, whatever is said', () => {
    for (const host of ['0.0.0.0', '192.168.1.5', '::', 'keen.example', '128.0.0.1', '127.evil.example'])
      expect(
        readSettings('/nowhere', { KEEN_RIDGE_HOST: host, KEEN_RIDGE_NAMES: 'k', KEEN_RIDGE_SIGN_IN: 'off' })
          .signIn,
      ).toBe(true);
    for (const host of ['127.0.0.1', '127.3.2.1', 'localhost', '::1']) expect(isLoopback(host)).toBe(true);
    expect(readSettings('/nowhere', { KEEN_RIDGE_SIGN_IN: 'on' }).signIn).toBe(true);
  });

  it.each([
    ['no JSON', '{', /is no JSON/],
    ['a field that is not known', '{"hots":"x"}', /hots/],
    ['a port that is none', '{"port":70000}', /port/],
    ['half of a certificate', '{"tls":{"cert":"x"}}', /key/],
    ['a token that can be guessed', '{"metricsToken":"abc"}', /metricsToken/],
    ['an open server without a name', '{"host":"0.0.0.0"}', /must know its names/],
  ])('are refused in words: %s', (_what, content, words) => {
    fileOf(content);
    expect(() => readSettings(folder, {})).toThrow(words);
    expect(() => readSettings(folder, {})).toThrow(SettingsFault);
  });

  it('are refused where the file that is named is not there', () => {
    expect(() => readSettings(folder, { KEEN_RIDGE_SETTINGS: '/nowhere/at/all.json' })).toThrow(
      /no \/nowhere/,
    );
  });
});

/** In groups of three from five figures on. */
const grouped = (count: number): string =>
  count < 10_000 ? `${count}` : `${count}`.replace(/\B(?=(\d{3})+$)/g, ' ');

describe('the table of limits in the documents', () => {
  const page = readFileSync(new URL('../../docs/running-a-server.md', import.meta.url), 'utf8');
  it.each([
    ['a request that is no file', `${LARGEST_BODY_BYTES / 2 ** 20} MiB of JSON, 64 deep`],
    ['a file of art, a package', `${LARGEST_UPLOAD_BYTES / 2 ** 30} GiB`],
    ['a sound', `${LARGEST_SOUND_BYTES / 2 ** 20} MiB`],
    ['an archive of a production', `${LARGEST_ARCHIVE_BYTES / 2 ** 30} GiB`],
    ['pixels of one image', `${LARGEST_PIXELS / 1e6} million`],
    ['planes of a shot', grouped(LIMITS.planes.max)],
    ['frames of a shot', grouped(LIMITS.lengthFrames.max)],
    ['keys of a channel', grouped(LIMITS.keys.max)],
    ['a side of the frame', `${grouped(LIMITS.framePx.max)} px`],
    ['a side of art', `${grouped(LIMITS.artPx.max)} px`],
    ['a body of which nothing comes', `${STALLED_MS / 1000} s`],
  ])('says of %s what is so', (what, most) => {
    expect(page).toContain(`| ${what} | ${most} |`);
  });
});
