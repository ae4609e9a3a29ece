import { setPlaneMount, setPlanesLocked } from '@keen-ridge/core/edits/planes';
import type { Plane } from '@keen-ridge/core/scene';
import { planeOf, planesOf } from '@keen-ridge/core/scene/records';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { subjectOf } from '../edits/depth-edits.ts';
import { useCalmScene } from '../session/pace/use-calm.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Select } from '../ui/fields/select.tsx';
import { TabRow } from '../ui/tab-row.tsx';
import { stageWords as say } from '../words/stage.ts';
import { DepthFields } from './panel/depth-fields.tsx';
import { PlaceFields } from './panel/place-fields.tsx';
import { RunFields } from './panel/run-fields.tsx';
import { PlaneSentence } from './plane-sentence.tsx';

const TABS = ['depth', 'place', 'run'] as const;
type Tab = (typeof TABS)[number];
const TAB_WORDS: Readonly<Record<Tab, string>> = {
  depth: say.depth,
  place: say.place,
  run: say.run,
};

/** The numbers of the selected planes, each typed, dragged or stepped, and what they mean. */
export function PlanePanel() {
  const scene = useCalmScene();
  const selection = useSessionState((state) => state.selection);
  const [tab, setTab] = useState<Tab>('depth');
  const planes = planesOf(scene).filter((plane) => selection.includes(plane.id));
  if (planes.length === 0) {
    return (
      <p className="h-[124px] shrink-0 px-3.5 py-4 text-ink-2">
        {planesOf(scene).length === 0 ? say.planesAndTheirNumbersStand : say.chooseAPlaneOnThe}
      </p>
    );
  }
  const locked = planes.filter((plane) => plane.locked);
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(value) => setTab(TABS.find((name) => name === value) ?? 'depth')}
      role="region"
      aria-label={say.plane}
      className="grid min-h-[124px] shrink-0 grid-cols-[150px_1fr] gap-x-3 px-3.5 py-2.5"
    >
      <div className="min-w-0">
        <PlaneHeading planes={planes} />
        <TabRow
          label={say.numbers}
          className="mt-2"
          tight
          tabs={TABS.map((name) => ({ value: name, words: TAB_WORDS[name] }))}
        />
      </div>
      <Tabs.Content value={tab} tabIndex={-1} className="@container min-w-0">
        {tab === 'depth' && <DepthFields planes={planes} scene={scene} />}
        {tab === 'place' && <PlaceFields planes={planes} scene={scene} />}
        {tab === 'run' && <RunFields planes={planes} scene={scene} />}
        {locked.length > 0 ? (
          <LockedSentence locked={locked} all={planes.length} />
        ) : (
          tab === 'depth' &&
          planes.length === 1 &&
          planes[0] && <PlaneSentence plane={planes[0]} shown={scene} />
        )}
      </Tabs.Content>
    </Tabs.Root>
  );
}

/** Why the numbers do nothing, and the way out. */
function LockedSentence({ locked, all }: { locked: readonly Plane[]; all: number }) {
  const session = useSession();
  const ids = locked.map((plane) => plane.id);
  return (
    <p className="narrow mt-2 flex items-center gap-2 text-[12.5px]">
      {all === 1 ? say.lockedItStaysWhereIt : say.lengthOfAllAreLocked(locked.length, all)}
      <Button
        onClick={() => {
          const { scene } = session.state;
          session.commit('unlock-planes', subjectOf(scene, ids), setPlanesLocked(scene, new Set(ids), false));
        }}
      >
        {say.unlock}
      </Button>
    </p>
  );
}

function PlaneHeading({ planes }: { planes: readonly Plane[] }) {
  const [only] = planes;
  return (
    <>
      <h2 className="truncate text-[14px] font-semibold">
        {planes.length === 1 && only ? only.name : say.lengthPlanes(planes.length)}
      </h2>
      <MountField planes={planes} />
    </>
  );
}

/** What the planes ride on: the stage, the camera or another plane. The picture at this frame stays. */
function MountField({ planes }: { planes: readonly Plane[] }) {
  const session = useSession();
  const scene = useSessionState((state) => state.scene);
  const selection = useSessionState((state) => state.selection);
  const mountValue = ({ mount }: Plane) => (mount.on === 'plane' ? mount.plane : mount.on);
  const [first] = planes;
  const value =
    first && planes.every((plane) => mountValue(plane) === mountValue(first)) ? mountValue(first) : '';
  const remount = (to: string) => {
    const carrier = planeOf(scene, to);
    const mount = carrier
      ? ({ on: 'plane', plane: carrier.id } as const)
      : ({ on: to === 'camera' ? 'camera' : 'stage' } as const);
    let next = session.state.scene;
    for (const { id } of planes) {
      const mounted = setPlaneMount(next, id, mount, session.state.frame);
      if (!mounted.ok) return toast.error(mounted.error);
      next = mounted.value;
    }
    session.commit('remount-plane', subjectOf(scene, selection), next);
  };
  const carriers = planesOf(scene).filter(({ id }) => !selection.includes(id));
  return (
    <Select
      label={say.mountedOn}
      className="mt-1"
      options={['stage', 'camera', ...carriers.map(({ id }) => id)]}
      words={{
        stage: 'stage',
        camera: 'camera',
        ...Object.fromEntries(carriers.map((one) => [one.id, one.name])),
      }}
      value={value}
      placeholder={say.several}
      onChange={remount}
    />
  );
}
