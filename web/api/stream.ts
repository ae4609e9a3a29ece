const AGAIN_MS = 1500;

export interface Stream {
  /** Server-sent events of that name; 'message' are those without one. */
  readonly on: Readonly<Record<string, (data: string) => void>>;
  /** Whether the server tells what happens just now. */
  readonly onLive?: (isLive: boolean) => void;
}

/**
 * Hears server-sent events (HTML Standard, section 9.2) until the returned function is called. A browser opens a stream
 * again that broke off, but not one that was refused, as a proxy does while its server starts anew: that is done here.
 * `address` is told the id of the last event, where there was one.
 */
export function listenTo(address: (heard: string | null) => string, { on, onLive }: Stream): () => void {
  let source: EventSource;
  let heard: string | null = null;
  let again: ReturnType<typeof setTimeout> | undefined;
  const open = () => {
    source = new EventSource(address(heard));
    source.onopen = () => onLive?.(true);
    source.onerror = () => {
      onLive?.(false);
      if (source.readyState === EventSource.CLOSED) again = setTimeout(open, AGAIN_MS);
    };
    for (const [name, hear] of Object.entries(on))
      source.addEventListener(name, ({ data, lastEventId }: MessageEvent<string>) => {
        if (lastEventId !== '') heard = lastEventId;
        hear(data);
      });
  };
  open();
  return () => {
    clearTimeout(again);
    source.close();
  };
}
