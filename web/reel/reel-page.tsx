import type { ReelShot } from '@keen-ridge/core/contract/wall';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { Pause, Play, SkipBack, SkipForward } from 'lucide-react';
import { useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { useReel } from '../api/queries.ts';
import type { Command } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { Button } from '../ui/button.tsx';
import { formatSeconds } from '../ui/format.ts';
import { wallWords as say } from '../words/wall.ts';
import { afterShown, atShot, REEL_START, toggled } from './reel-place.ts';

/** The shots of a production one after another, each behind its slate: the newest film of each, or its picture for as long. */
export function ReelPage() {
  const { productionId = '' } = useParams();
  const [query] = useSearchParams();
  const reel = useReel(productionId);
  const chosen = query.get('shots')?.split(',') ?? null;
  const shots = (reel.data?.shots ?? []).filter(({ id }) => chosen === null || chosen.includes(id));
  return (
    <div className="flex h-full flex-col bg-[#1c1c1c] text-[#ececec]">
      <header className="flex h-[42px] shrink-0 items-center gap-3 border-b border-[#3a3a3a] px-3.5">
        <Link to="/" className="underline-offset-2 hover:underline">
          {say.theWall}
        </Link>
        <h1 className="font-semibold">{reel.data?.name ?? ''}</h1>
      </header>
      {reel.isError && (
        <p role="alert" className="m-6">
          {reel.error.message}
        </p>
      )}
      {reel.data && shots.length === 0 && <p className="m-6">{say.noShotsToPlay}</p>}
      {shots.length > 0 && <Reel key={shots.map(({ id }) => id).join()} shots={shots} />}
    </div>
  );
}

const SLATE_MS = 1200;

function Reel({ shots }: { shots: readonly ReelShot[] }) {
  const [place, setPlace] = useState(REEL_START);
  const { playing } = place;
  const shot = shots[place.index];
  const goTo = (index: number) => setPlace(atShot(place, index, shots.length));
  const next = () => setPlace(afterShown(place, shots.length));
  const toggle = () => setPlace(toggled(place));
  useReelCommands({ toggle, back: () => goTo(place.index - 1), on: () => goTo(place.index + 1) });
  if (!shot) return null;
  const seconds = secondsOfFrames(shot.lengthFrames, shot.rate);
  return (
    <>
      <div className="grid min-h-0 flex-1 grid-rows-[minmax(0,1fr)] place-items-center p-6">
        {place.on === 'slate' ? (
          <Slate
            key={shot.id}
            shot={shot}
            number={place.index + 1}
            of={shots.length}
            playing={playing}
            onEnd={next}
          />
        ) : shot.filmId ? (
          <Film key={shot.id} shot={shot} playing={playing} onEnd={next} />
        ) : (
          <Still key={shot.id} shot={shot} seconds={seconds} playing={playing} onEnd={next} />
        )}
      </div>
      <footer className="flex h-12 shrink-0 items-center gap-2 border-t border-[#3a3a3a] px-3.5">
        <Button icon aria-label={say.shotBefore} onClick={() => goTo(place.index - 1)}>
          <SkipBack size={14} aria-hidden="true" />
        </Button>
        <Button icon aria-label={playing ? say.pause : say.play} onClick={toggle}>
          {playing ? <Pause size={14} aria-hidden="true" /> : <Play size={14} aria-hidden="true" />}
        </Button>
        <Button icon aria-label={say.nextShot} onClick={() => goTo(place.index + 1)}>
          <SkipForward size={14} aria-hidden="true" />
        </Button>
        <ol aria-label={say.shots} className="flex min-w-0 flex-1 gap-1 overflow-x-auto">
          {shots.map((one, i) => (
            <li key={one.id}>
              <Button
                aria-current={i === place.index}
                className={i === place.index ? 'outline-2 -outline-offset-2 outline-select' : ''}
                title={one.name}
                onClick={() => goTo(i)}
              >
                {one.name}
                {one.filmId === null && <span className="text-[11px]">{say.noFilm}</span>}
              </Button>
            </li>
          ))}
        </ol>
        <span className="num">{formatSeconds(seconds)}</span>
      </footer>
    </>
  );
}

interface PartProps {
  shot: ReelShot;
  playing: boolean;
  onEnd: () => void;
}

/** What stands before a shot: which it is and how long. */
function Slate({ shot, number, of, playing, onEnd }: PartProps & { number: number; of: number }) {
  useAfter(SLATE_MS, playing, onEnd);
  return (
    <div className="text-center" data-testid="slate">
      <p className="num text-[14px]">{say.numberOf(number, of)}</p>
      <p className="mt-2 text-[30px] font-semibold">{shot.name}</p>
      <p className="num mt-2 text-[14px]">
        {shot.lengthFrames} f · {formatSeconds(secondsOfFrames(shot.lengthFrames, shot.rate))}
      </p>
    </div>
  );
}

function Film({ shot, playing, onEnd }: PartProps) {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    const film = video.current;
    if (!film) return;
    // A film that is put away while it begins to play says so; that is no fault.
    if (playing) film.play().catch(() => {});
    else film.pause();
  }, [playing]);
  return (
    // biome-ignore lint/a11y/useMediaCaption: a film of the shot has no speech
    <video
      ref={video}
      className="h-full w-full object-contain"
      src={`/api/handoffs/${shot.filmId}/film`}
      aria-label={shot.name}
      onEnded={onEnd}
    />
  );
}

/** A shot without a film, as its picture, for as long as it is. */
function Still({ shot, seconds, playing, onEnd }: PartProps & { seconds: number }) {
  useAfter(seconds * 1000, playing, onEnd);
  return (
    <img className="h-full w-full object-contain" src={`/api/shots/${shot.id}/picture`} alt={shot.name} />
  );
}

/** Calls `then` once so much time has been played; a pause stops the clock. */
function useAfter(ms: number, playing: boolean, then: () => void): void {
  const left = useRef(ms);
  const latest = useLatest(then);
  useEffect(() => {
    if (!playing) return;
    const from = performance.now();
    const timer = setTimeout(() => latest.current(), left.current);
    return () => {
      clearTimeout(timer);
      left.current -= performance.now() - from;
    };
  }, [playing, latest]);
}

interface ReelActs {
  readonly toggle: () => void;
  readonly back: () => void;
  readonly on: () => void;
}

/** The keyboard of a reel; what it does is looked up when a key is pressed. */
function useReelCommands(acts: ReelActs): void {
  const latest = useLatest(acts);
  useCommands(
    'step',
    useMemo((): readonly Command[] => {
      const group = 'Reel';
      return [
        {
          id: 'reel.play',
          words: say.playOrPause,
          group,
          keys: ['Space'],
          run: () => latest.current.toggle(),
        },
        {
          id: 'reel.back',
          words: say.shotBefore,
          group,
          keys: ['ArrowLeft'],
          run: () => latest.current.back(),
        },
        { id: 'reel.next', words: say.nextShot, group, keys: ['ArrowRight'], run: () => latest.current.on() },
      ];
    }, [latest]),
  );
}

/** What was given last, for what is called later. */
function useLatest<T>(value: T): { readonly current: T } {
  const latest = useRef(value);
  useLayoutEffect(() => {
    latest.current = value;
  });
  return latest;
}
