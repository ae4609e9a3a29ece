/** A worker that does nothing by itself: tests say what it answers, and when it stops. */
export class FakeWorker {
  /** All that were begun, in their order. */
  static readonly begun: FakeWorker[] = [];
  onmessage: ((event: { readonly data: unknown }) => void) | null = null;
  onerror: ((event: { readonly message?: string }) => void) | null = null;
  readonly told: unknown[] = [];
  ended = false;

  constructor() {
    FakeWorker.begun.push(this);
  }

  postMessage(message: unknown): void {
    this.told.push(message);
  }

  terminate(): void {
    this.ended = true;
  }
}
