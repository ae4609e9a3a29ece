import type { Speaker } from './sound-follower.ts';

/** A speaker of the browser's own (W3C Web Audio API): one recording, decoded once. */
export class WebSpeaker implements Speaker {
  private readonly context: AudioContext;
  private readonly recording: AudioBuffer;
  private source: AudioBufferSourceNode | null = null;

  constructor(context: AudioContext, recording: AudioBuffer) {
    this.context = context;
    this.recording = recording;
  }

  get now(): number {
    return this.context.currentTime;
  }

  start({ from, speed, volume, lasts }: Parameters<Speaker['start']>[0]): void {
    // Browsers let nothing sound before the artist has pressed something, which play and scrubbing are.
    if (this.context.state === 'suspended') this.context.resume().catch(() => {});
    const gain = this.context.createGain();
    gain.gain.value = volume;
    gain.connect(this.context.destination);
    const source = this.context.createBufferSource();
    source.buffer = this.recording;
    source.playbackRate.value = speed;
    source.connect(gain);
    source.start(0, Math.min(from, this.recording.duration), lasts);
    this.source = source;
  }

  stop(): void {
    this.source?.stop();
    this.source?.disconnect();
    this.source = null;
  }
}
