import { rationalToNumber } from '../../units/index.ts';
import type { ShotEntry } from './shot-entry.ts';

const rationalTime = (frames: number, rate: ShotEntry['rate']) => ({
  OTIO_SCHEMA: 'RationalTime.1',
  rate: rationalToNumber(rate),
  value: frames,
});

const range = (frames: number, rate: ShotEntry['rate']) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: rationalTime(0, rate),
  duration: rationalTime(frames, rate),
});

const common = (name: string) => ({ name, metadata: {}, effects: [], markers: [], enabled: true });

/** A film is named, not where it lies: whoever cuts puts it beside the file. */
function media({ film, lengthFrames, rate }: ShotEntry) {
  const available_range = range(lengthFrames, rate);
  return film
    ? {
        OTIO_SCHEMA: 'ExternalReference.1',
        name: film.fileName,
        metadata: {},
        available_range,
        available_image_bounds: null,
        target_url: film.fileName.split('/').map(encodeURIComponent).join('/'),
      }
    : {
        OTIO_SCHEMA: 'MissingReference.1',
        name: '',
        metadata: {},
        available_range,
        available_image_bounds: null,
      };
}

const clip = (shot: ShotEntry) => ({
  OTIO_SCHEMA: 'Clip.2',
  ...common(shot.name),
  source_range: range(shot.lengthFrames, shot.rate),
  media_references: { DEFAULT_MEDIA: media(shot) },
  active_media_reference_key: 'DEFAULT_MEDIA',
});

/**
 * A production as an OpenTimelineIO timeline: its shots one after another on one track. Schema names and fields are
 * those of the Academy Software Foundation's OpenTimelineIO serialised schema, from memory.
 */
export function otioText(production: string, shots: readonly ShotEntry[]): string {
  const timeline = {
    OTIO_SCHEMA: 'Timeline.1',
    name: production,
    metadata: {},
    global_start_time: null,
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      ...common('tracks'),
      source_range: null,
      children: [
        {
          OTIO_SCHEMA: 'Track.1',
          ...common('Shots'),
          kind: 'Video',
          source_range: null,
          children: shots.map(clip),
        },
      ],
    },
  };
  return `${JSON.stringify(timeline, null, 2)}\n`;
}
