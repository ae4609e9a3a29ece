import {
  closeLoop,
  closingLengths,
  closingWorlds,
  type LoopWay,
  timesRuns,
  worldSpeed,
} from '@keen-ridge/core/edits/runs';
import { setShotLength } from '@keen-ridge/core/edits/shot';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { canClose, type LoopCost, type LoopItem, loopCost, loopReport } from '@keen-ridge/core/staging/loop';
import { useMemo } from 'react';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dock } from '../ui/dock.tsx';
import { formatNumber } from '../ui/format.ts';
import { stageWords as say } from '../words/stage.ts';

const percent = (share: number, signed: boolean): string => `${formatNumber(share * 100, 2, signed)} %`;

const costWords = ({ standing, worstError }: LoopCost): string =>
  say.percentAndStanding(percent(worstError, false), standing);

/** Whether the frame after the last is the first again, and the small changes that make it so. */
export function LoopDock() {
  const scene = useSessionState((state) => state.scene);
  const items = useMemo(() => loopReport(scene), [scene]);
  if (items.every(({ kind }) => kind === 'camera' || kind === 'rides' || kind === 'keyed')) return null;
  const closes = items.every((item) => canClose(item) && item.closed);
  return (
    <Dock id="loop" label={closes ? say.loopCloses : say.loop}>
      <LoopReport scene={scene} items={items} closes={closes} />
    </Dock>
  );
}

function LoopReport({ scene, items, closes }: { scene: Scene; items: readonly LoopItem[]; closes: boolean }) {
  const session = useSession();
  const lengths = useMemo(() => (closes ? [] : closingLengths(scene, 24, 3)), [scene, closes]);
  const canAny = items.some(canClose);
  const close = (way: LoopWay) => () =>
    session.commit('close-loop', way, closeLoop(session.state.scene, way));
  return (
    <div data-testid="loop-report">
      <p className="font-semibold">
        {closes
          ? say.frameValueIsFrameOne(scene.lengthFrames + 1)
          : say.overLengthFramesFramesThe(scene.lengthFrames)}
      </p>
      <ul className="mt-2 max-h-56 overflow-auto">
        {items.map((item) => (
          <li
            key={
              item.kind === 'camera'
                ? 'camera'
                : `${item.kind}${item.planeId}${'axis' in item ? item.axis : ''}`
            }
            className="flex justify-between gap-3 border-b border-rule-light py-1"
          >
            <ItemWords scene={scene} item={item} />
          </li>
        ))}
      </ul>
      {!closes && canAny && (
        <>
          <div className="mt-3 flex gap-2">
            <Button tone="strong" onClick={close('speeds')}>
              {say.changeSpeeds}
            </Button>
            <Button title={say.theSpeedsStayStripsBecome} onClick={close('lengths')}>
              {say.changeLengths}
            </Button>
          </div>
          <p className="mt-2 text-[12px] text-ink-2">{say.atMostValueOfChange(costWords(loopCost(items)))}</p>
          <div className="mt-1 flex flex-wrap gap-1.5">
            {lengths.map(({ lengthFrames, ...cost }) => (
              <Button
                key={lengthFrames}
                onClick={() =>
                  session.commit(
                    'close-loop',
                    `${lengthFrames} frames`,
                    closeLoop(setShotLength(session.state.scene, lengthFrames), 'speeds'),
                  )
                }
              >
                {`${lengthFrames} f · ${costWords(cost)}`}
              </Button>
            ))}
          </div>
          <OtherWorlds scene={scene} />
        </>
      )}
    </div>
  );
}

/** For strips that are too slow to pass even once, and those that closing would change by a lot: all faster or slower. */
function OtherWorlds({ scene }: { scene: Scene }) {
  const session = useSession();
  const worlds = useMemo(() => closingWorlds(scene), [scene]);
  const speed = useMemo(() => worldSpeed(scene), [scene]);
  if (worlds.length === 0) return null;
  return (
    <>
      <p className="mt-2 text-[12px] text-ink-2">{say.orAnotherSpeedOfThe}</p>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {worlds.map(({ factor, ...cost }) => {
          const words =
            speed === null
              ? say.worldTimes(formatNumber(factor, 2))
              : say.worldAtPx(formatNumber(speed * factor, 2));
          return (
            <Button
              key={factor}
              onClick={() =>
                session.commit(
                  'close-loop',
                  say.aWorldAt(words),
                  closeLoop(timesRuns(session.state.scene, factor), 'speeds'),
                )
              }
            >
              {`${words} · ${costWords(cost)}`}
            </Button>
          );
        })}
      </div>
    </>
  );
}

function ItemWords({ scene, item }: { scene: Scene; item: LoopItem }) {
  if (item.kind === 'camera') return <span>{say.theCameraEndsElsewhereThan}</span>;
  const name = planeOf(scene, item.planeId)?.name ?? '';
  switch (item.kind) {
    case 'slides':
      return <span>{say.nameRunsButDoesNot(name)}</span>;
    case 'once':
      return <span>{say.namePlaysItsFramesOnce(name)}</span>;
    case 'keyed':
      return <span>{say.nameStandsElsewhereByIts(name)}</span>;
    case 'rides':
      return <span>{say.nameRidesOnARunning(name)}</span>;
    case 'run':
    case 'moving':
      return (
        <>
          <span className="truncate">{name}</span>
          <span className="num shrink-0">
            {item.closed
              ? `${formatNumber(item.turns, 0)}×`
              : item.nearest === 0
                ? say.turnsStandStill(formatNumber(item.turns, 3))
                : `${formatNumber(item.turns, 3)}× → ${formatNumber(item.nearest, 0)}× (${percent(item.error, true)})`}
          </span>
        </>
      );
  }
}
