import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { HandoffAsked } from '@keen-ridge/core/contract';
import { soundAnswerSchema } from '@keen-ridge/core/contract/sound';
import { createdSchema, openedShotSchema } from '@keen-ridge/core/contract/wall';
import { addPlanes } from '@keen-ridge/core/edits/planes';
import { changeSound, laySound } from '@keen-ridge/core/edits/shot';
import type { Scene } from '@keen-ridge/core/scene';
import { newPlane } from '@keen-ridge/core/staging/content';
import { testPlaneId } from '@keen-ridge/core/testing';
import { unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { giveUpUnused } from '../storage/retention.ts';
import { callsOf, edit, problem } from '../testing/calls.ts';
import { ask, finished } from '../testing/handoffs.ts';
import { wavOf } from '../testing/sound.ts';
import { startTestApp, type TestApp } from '../testing/test-app.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-sound-'));
let app: TestApp;
const { newShot, shotAt, send } = callsOf(() => app.url);

const RATE = 48_000;
/** A WAV (RIFF, 16 bit, one channel) that is silent for half a second and then sounds for half a second, at 440 Hz. */
function toneWav(): Buffer {
  const samples = Int16Array.from({ length: RATE }, (_, i) =>
    i < RATE / 2 ? 0 : Math.round(16_000 * Math.sin((2 * Math.PI * 440 * i) / RATE)),
  );
  return wavOf(samples, RATE);
}

/** The same tone as another kind of file, by the tool itself. */
function coded(kind: string, codec: string): Buffer {
  const path = join(folder, `tone.${kind}`);
  const made = spawnSync('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-i',
    join(folder, 'tone.wav'),
    '-c:a',
    codec,
    path,
  ]);
  expect(made.stderr.toString()).toBe('');
  return readFileSync(path);
}

async function bringIn(bytes: Uint8Array, name = 'tone.wav') {
  const answer = await fetch(`${app.url}/api/sounds?name=${name}`, {
    method: 'POST',
    body: Buffer.from(bytes),
  });
  return { status: answer.status, json: await answer.json() };
}

async function peaksOf(id: string): Promise<Uint8Array> {
  return new Uint8Array(await (await fetch(`${app.url}/api/sounds/${id}/peaks`)).arrayBuffer());
}

async function filmOf(shot: string, asked: HandoffAsked, named = '_sound'): Promise<Uint8Array> {
  const id = await ask(app, shot, asked);
  expect(await finished(app, shot, id)).toMatchObject({
    state: 'done',
    fileName: expect.stringMatching(new RegExp(`${named}\\.[a-z0-9]+$`)),
  });
  return new Uint8Array(await (await fetch(`${app.url}/api/handoffs/${id}/file`)).arrayBuffer());
}

const changed = async (id: string, change: (scene: Scene) => Scene) => {
  const { scene, revision } = await shotAt(id);
  expect((await send(id, revision, edit(scene, change(scene)))).status).toBe(200);
};

beforeAll(async () => {
  app = await startTestApp();
  writeFileSync(join(folder, 'tone.wav'), toneWav());
});
afterAll(async () => {
  await app.close();
  rmSync(folder, { recursive: true, force: true });
});

describe('sounds', () => {
  it.each([
    ['wav', () => toneWav(), 0],
    ['flac', () => coded('flac', 'flac'), 0],
    ['ogg', () => coded('ogg', 'libvorbis'), 0.03],
    // An MP3 holds whole frames of 1152 samples, and begins with what its encoder waits for.
    ['mp3', () => coded('mp3', 'libmp3lame'), 0.06],
  ] as const)('are listened to: how long a %s is, and where it is loud', async (kind, bytes, within) => {
    const { status, json } = await bringIn(bytes(), `tone.${kind}`);
    expect(status).toBe(201);
    const { id, durationSeconds } = soundAnswerSchema.parse(json);
    expect(Math.abs(durationSeconds - 1)).toBeLessThanOrEqual(within);
    const peaks = await peaksOf(id);
    expect(peaks.length).toBe(Math.ceil(durationSeconds * 100));
    // 16 000 of 32 767 is 125 of 255.
    expect(Math.max(...peaks.subarray(0, 40))).toBeLessThan(4);
    expect(Math.abs(Math.max(...peaks.subarray(60, 90)) - 125)).toBeLessThanOrEqual(kind === 'mp3' ? 8 : 4);
    const file = await fetch(`${app.url}/api/sounds/${id}`);
    expect(file.headers.get('content-type')).toContain('audio/');
  });

  it.each([
    ['a picture', Buffer.from('GIF89a and so on'), 'is no WAV, MP3, OGG or FLAC'],
    ['a WAV without sound', toneWav().subarray(0, 44), 'there is no sound in it'],
    ['an Ogg that is damaged', Buffer.from(`OggS${'x'.repeat(400)}`), 'tone.wav” cannot be heard'],
    ['nothing', Buffer.alloc(0), 'is no WAV, MP3, OGG or FLAC'],
  ])('refuse %s with a sentence', async (_what, bytes, words) => {
    const answer = await bringIn(bytes);
    expect(answer.status).toBe(422);
    expect(problem(answer).detail).toContain(words);
    expect(problem(answer).detail).not.toContain('/tmp');
  });

  it('go with a package and come back the same; one that is damaged is left out and named', async () => {
    const { json } = await bringIn(toneWav());
    const { id, name, durationSeconds } = soundAnswerSchema.parse(json);
    const shot = await newShot();
    const sound = { id, name, durationSeconds, startFrame: 3, volume: 0.5, muted: false };
    await changed(shot, (scene) => laySound(scene, sound));
    const bytes = new Uint8Array(await (await fetch(`${app.url}/api/shots/${shot}/package`)).arrayBuffer());
    const part = `sound/${id}.wav`;
    expect(Buffer.from(unzipSync(bytes)[part]!).equals(toneWav())).toBe(true);
    const production = (await shotAt(shot)).productionId;
    const opened = async (packed: Uint8Array) => {
      const address = `${app.url}/api/productions/${production}/packages?name=back.zip`;
      const answer = await fetch(address, { method: 'POST', body: new Uint8Array(packed) });
      return openedShotSchema.parse(await answer.json());
    };
    const back = await opened(bytes);
    const again = new Uint8Array(
      await (await fetch(`${app.url}/api/shots/${back.id}/package`)).arrayBuffer(),
    );
    expect(Buffer.from(again).equals(bytes)).toBe(true);
    const damaged = await opened(zipSync({ ...unzipSync(bytes), [part]: Buffer.from('RIFF0000WAVE') }));
    expect(damaged.leftOut).toEqual([`the sound tone.wav is damaged: its SHA-256 differs`]);
    expect((await shotAt(damaged.id)).scene.sound ?? null).toBeNull();
    const archive = await (await fetch(`${app.url}/api/productions/${production}/archive`)).arrayBuffer();
    expect(Object.keys(unzipSync(new Uint8Array(archive)))).toContain(part);
    const answer = await fetch(`${app.url}/api/archives?name=all.zip`, { method: 'POST', body: archive });
    expect(createdSchema.extend({}).safeParse(await answer.json()).success).toBe(true);
  });

  it.each([
    ['webm', 'opus', 0.02],
    ['mp4', 'aac', 0.05],
    ['ffv1', 'flac', 0.002],
  ] as const)('are heard in a %s where they lie under its frames', async (kind, codec, within) => {
    const { json } = await bringIn(toneWav());
    const { id, name, durationSeconds } = soundAnswerSchema.parse(json);
    const shot = await newShot();
    const paint = { kind: 'solid', colour: '#204060', opacity: 1 } as const;
    const card = newPlane(testPlaneId('card'), 'Card', { kind: 'card', widthPx: 400, heightPx: 200, paint });
    // Ten frames of 24: the tone, half a second into the sound, begins with frame 5 where the sound began 8 before frame 1.
    const sound = { id, name, durationSeconds, startFrame: -7, volume: 1, muted: false };
    await changed(shot, (scene) => laySound(addPlanes(scene, [card]), sound));
    const asked = { kind, firstFrame: 1, lastFrame: 10, sound: true };
    const file = join(folder, `film-${kind}`);
    writeFileSync(file, await filmOf(shot, asked));
    const probe = (...args: string[]) =>
      spawnSync('ffprobe', ['-v', 'error', ...args, file], { encoding: 'utf8' });
    const streams = probe('-show_entries', 'stream=codec_name,codec_type', '-of', 'csv=p=0').stdout;
    expect(streams).toContain(`${codec},audio`);
    const pcm = spawnSync(
      'ffmpeg',
      ['-v', 'error', '-i', file, '-ac', '1', '-ar', '48000', '-f', 's16le', 'pipe:1'],
      {
        maxBuffer: 2 ** 24,
      },
    ).stdout;
    const samples = new Int16Array(pcm.buffer, pcm.byteOffset, pcm.length >> 1);
    expect(samples.length / RATE).toBeCloseTo(10 / 24, 1);
    const loud = samples.findIndex((value) => Math.abs(value) > 4000) / RATE;
    // Frame 5 begins after 4 frames.
    expect(Math.abs(loud - 4 / 24)).toBeLessThanOrEqual(within);
    // Muted, or not asked for, the film has none.
    await changed(shot, (scene) => changeSound(scene, { muted: true }));
    writeFileSync(file, await filmOf(shot, asked, '_1-10(_vp9)?'));
    expect(probe('-show_entries', 'stream=codec_type', '-of', 'csv=p=0').stdout.trim()).toBe('video');
  });

  it('are given up when nothing names them any more', async () => {
    const { json } = await bringIn(coded('unused.wav', 'pcm_u8'));
    const { id } = soundAnswerSchema.parse(json);
    const days = (count: number) => new Date(Date.now() + count * 24 * 3600_000);
    await giveUpUnused(app.db, folder, days(29));
    expect((await fetch(`${app.url}/api/sounds/${id}/peaks`)).status).toBe(200);
    await giveUpUnused(app.db, folder, days(31));
    expect((await fetch(`${app.url}/api/sounds/${id}`)).status).toBe(404);
  });
});
