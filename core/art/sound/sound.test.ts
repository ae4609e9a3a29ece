import { describe, expect, it } from 'vitest';
import { isSoundPart, SOUND_KINDS, soundKindOf, soundParts } from './sound.ts';

const bytes = (text: string, ...more: number[]) => Uint8Array.from([...Buffer.from(text, 'latin1'), ...more]);

describe('files of sound', () => {
  it.each([
    ['wav', bytes('RIFF\0\0\0\0WAVEfmt ')],
    ['ogg', bytes('OggS\0')],
    ['flac', bytes('fLaC\0')],
    ['mp3', bytes('ID3\x04')],
    ['mp3', bytes('', 0xff, 0xfb, 0x90, 0)],
    [null, bytes('RIFF\0\0\0\0AVI LIST')],
    // Layer II, and ADTS (layer bits are none): neither is an MP3.
    [null, bytes('', 0xff, 0xfd, 0x90, 0)],
    [null, bytes('', 0xff, 0xf1, 0x50, 0)],
    [null, bytes('')],
    [null, bytes('GIF89a')],
  ])('are told by their first bytes: %s', (kind, file) => {
    expect(soundKindOf(file)).toBe(kind);
  });

  it('lie in packages under names that are known again', () => {
    const names = soundParts('a'.repeat(64));
    expect(names).toHaveLength(SOUND_KINDS.length);
    expect(names.every(isSoundPart)).toBe(true);
    expect(isSoundPart('sound/../x.wav')).toBe(false);
  });
});
