import type { ShotCard } from '@keen-ridge/core/contract/wall';
import { useEffect, useRef, useState } from 'react';
import { showQuietly } from '../../api/quietly.ts';
import { wallWords as say } from '../../words/wall.ts';

/** A shot's middle frame. One that waits for its turn or is drawn for the first time says so, unless it comes at once. */
export function Poster({ shot }: { shot: Pick<ShotCard, 'id' | 'revision'> }) {
  const [isAsked, setAsked] = useState(false);
  const [isDrawn, setDrawn] = useState(false);
  const end = useRef<() => void>(() => undefined);
  useEffect(() => {
    const left = new AbortController();
    const shown = () =>
      new Promise<void>((resolve) => {
        end.current = resolve;
        setAsked(true);
      });
    // It only rejects where the tile was left before its turn came.
    showQuietly(shown, left.signal).catch(() => undefined);
    return () => {
      left.abort();
      end.current();
    };
  }, []);
  return (
    <span className="relative block">
      {!isDrawn && <span className="being-drawn">{say.beingDrawn}</span>}
      <img
        {...(isAsked ? { src: `/api/shots/${shot.id}/picture?revision=${shot.revision}` } : {})}
        alt=""
        draggable={false}
        className="aspect-video w-full object-contain"
        onLoad={() => {
          setDrawn(true);
          end.current();
        }}
        onError={() => end.current()}
      />
    </span>
  );
}
