/** Rendered frames of one set-up, seen one way, kept up to a number of bytes: those asked for longest ago go first. */
export class FrameCache {
  private readonly frames = new Map<number, ImageData>();
  private key: readonly unknown[] = [];
  private bytes = 0;
  private readonly mostBytes: number;
  private readonly onChange: (frames: ReadonlySet<number>) => void;

  constructor(mostBytes: number, onChange: (frames: ReadonlySet<number>) => void) {
    this.mostBytes = mostBytes;
    this.onChange = onChange;
  }

  /** Everything that a picture depends on beside the frame; frames of another key are forgotten. */
  use(key: readonly unknown[]): void {
    if (key.length === this.key.length && key.every((part, i) => Object.is(part, this.key[i]))) return;
    this.key = key;
    if (this.frames.size === 0) return;
    this.frames.clear();
    this.bytes = 0;
    this.tell();
  }

  has(frame: number): boolean {
    return this.frames.has(frame);
  }

  get(frame: number): ImageData | undefined {
    const image = this.frames.get(frame);
    if (!image) return undefined;
    this.frames.delete(frame);
    this.frames.set(frame, image);
    return image;
  }

  /** Whether another frame of this size has room without another one going. */
  hasRoomFor(widthPx: number, heightPx: number): boolean {
    return this.bytes + widthPx * heightPx * 4 <= this.mostBytes;
  }

  put(frame: number, image: ImageData): void {
    this.drop(frame);
    this.frames.set(frame, image);
    this.bytes += image.data.byteLength;
    for (const oldest of this.frames.keys()) {
      if (this.bytes <= this.mostBytes || oldest === frame) break;
      this.drop(oldest);
    }
    this.tell();
  }

  private drop(frame: number): void {
    const image = this.frames.get(frame);
    if (!image) return;
    this.frames.delete(frame);
    this.bytes -= image.data.byteLength;
  }

  private tell(): void {
    this.onChange(new Set(this.frames.keys()));
  }
}
