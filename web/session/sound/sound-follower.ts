import type { Sound } from '@keen-ridge/core/scene/sound';
import { secondsIntoSound } from '@keen-ridge/core/timing/sound';
import { type Rational, rationalToNumber } from '@keen-ridge/core/units';

/** Something that sounds from a place of the recording, at so many times its speed, until it is told to stop. */
export interface Speaker {
  /** Seconds on the speaker's own clock. */
  readonly now: number;
  /** `lasts`: seconds of the recording that are heard; all that is left without it. */
  start(at: {
    readonly from: number;
    readonly speed: number;
    readonly volume: number;
    readonly lasts?: number;
  }): void;
  stop(): void;
}

/** What of a shot the sound goes by. */
export interface Heard {
  readonly sound: Sound | null;
  readonly rate: Rational;
  readonly frame: number;
  readonly playing: boolean;
  /** Times the rate of the shot; null where play goes frame by frame, in no time that could be heard. */
  readonly speed: number | null;
}

/** Farther than this from where it should be, the sound is begun anew: two frames of 24, which nobody hears as apart. */
const MOST_DRIFT_SECONDS = 0.08;
/** The least of the recording that is heard when one scrubs: shorter is but a click. */
const LEAST_GRAIN_SECONDS = 0.06;

/** Lets a speaker follow the playhead: in time while the shot plays, a grain of each frame that is scrubbed over. */
export class SoundFollower {
  private readonly speaker: Speaker;
  private began: {
    readonly at: number;
    readonly from: number;
    readonly speed: number;
    readonly key: string;
  } | null = null;
  private last: Heard | null = null;

  constructor(speaker: Speaker) {
    this.speaker = speaker;
  }

  follow(heard: Heard): void {
    const { last } = this;
    this.last = heard;
    const { sound, rate, frame, playing, speed } = heard;
    if (!sound || sound.muted) {
      this.silence();
      return;
    }
    const at = secondsIntoSound(sound.startFrame, frame, rate);
    const isHeard = at >= 0 && at < sound.durationSeconds;
    if (!playing) {
      this.silence();
      // A frame that play ended on was heard already.
      const scrubbed = last !== null && !last.playing && last.frame !== frame && last.sound?.id === sound.id;
      if (scrubbed && isHeard) this.grain(sound, at, rate);
      return;
    }
    if (speed === null || !isHeard) {
      this.silence();
      return;
    }
    // Another sound, or as loud as it was not: begun anew too.
    const key = `${sound.id}/${sound.volume}/${speed}`;
    const expected = this.began && this.began.from + (this.speaker.now - this.began.at) * this.began.speed;
    const drift = expected === null ? Number.POSITIVE_INFINITY : Math.abs(expected - at);
    if (this.began?.key === key && drift <= MOST_DRIFT_SECONDS) return;
    this.speaker.stop();
    this.speaker.start({ from: at, speed, volume: sound.volume });
    this.began = { at: this.speaker.now, from: at, speed, key };
  }

  private grain({ volume }: Sound, from: number, rate: Rational): void {
    const lasts = Math.max(LEAST_GRAIN_SECONDS, 1 / rationalToNumber(rate));
    this.speaker.stop();
    this.speaker.start({ from, speed: 1, volume, lasts });
  }

  silence(): void {
    if (this.began) this.speaker.stop();
    this.began = null;
  }
}
