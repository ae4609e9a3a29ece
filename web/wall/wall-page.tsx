import type { Production, ShotCard } from '@keen-ridge/core/contract/wall';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { rationalText } from '@keen-ridge/core/units';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import {
  deleteIt,
  type Kind,
  makeProduction,
  renameIt,
  restoreIt,
  useWall,
  useWallChange,
} from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Rename } from '../ui/fields/rename.tsx';
import { formatSeconds } from '../ui/format.ts';
import { Logo } from '../ui/logo.tsx';
import { Menu } from '../ui/menu.tsx';
import { NewProductionDialog } from './new-production-dialog.tsx';
import { NewShotDialog } from './new-shot-dialog.tsx';

/** Every production and its shots, as pictures. */
export function WallPage() {
  const wall = useWall();
  const [making, setMaking] = useState(false);
  const make = useWallChange(makeProduction);
  return (
    <div className="flex min-h-full flex-col">
      <header className="flex h-[42px] items-center gap-3 border-b border-rule bg-bar px-3.5">
        <Logo />
        <span className="font-semibold">Keen Ridge</span>
        <span className="flex-1" />
        <Button onClick={() => setMaking(true)}>New production</Button>
      </header>
      <main className="mx-auto w-full max-w-[1240px] flex-1 px-6 pb-12">
        <h1 className="sr-only">Productions</h1>
        {wall.isPending && (
          <p role="status" className="mt-10 text-ink-2">
            {wall.failureCount > 0 ? 'The server does not answer. Trying again …' : 'Reading the wall …'}
          </p>
        )}
        {wall.isError && (
          <p role="alert" className="mt-10 text-fault">
            The wall cannot be read: {wall.error.message}
          </p>
        )}
        {wall.data?.productions.length === 0 && (
          <div className="mt-[20vh] text-center">
            <p className="text-[18px] font-semibold">No production yet</p>
            <p className="mt-1 text-ink-2">A production holds the shots of one film or sequence.</p>
            <Button className="mt-4" tone="strong" onClick={() => setMaking(true)}>
              Make the first production
            </Button>
          </div>
        )}
        {wall.data?.productions.map((production) => (
          <ProductionRow key={production.id} production={production} />
        ))}
      </main>
      {making && (
        <NewProductionDialog
          onClose={() => setMaking(false)}
          onMake={async (name) => {
            await make.mutateAsync(name);
            setMaking(false);
          }}
        />
      )}
    </div>
  );
}

/** Deletes at once, since it can be taken back at once. */
function useDelete() {
  const remove = useWallChange(deleteIt);
  const restore = useWallChange(restoreIt);
  return (kind: Kind, id: string, name: string) =>
    remove.mutate(
      { kind, id },
      {
        onSuccess: () =>
          void toast(`Deleted “${name}”`, {
            action: { label: 'Undo', onClick: () => restore.mutate({ kind, id }) },
          }),
        onError: (error) => void toast.error(error.message),
      },
    );
}

function useRename() {
  const rename = useWallChange(renameIt);
  return (kind: Kind, id: string, name: string) =>
    rename.mutate({ kind, id, name }, { onError: (error) => void toast.error(error.message) });
}

function ProductionRow({ production }: { production: Production }) {
  const [renaming, setRenaming] = useState(false);
  const [making, setMaking] = useState(false);
  const remove = useDelete();
  const rename = useRename();
  return (
    <section aria-label={production.name} className="mt-8">
      <div className="mb-3 flex items-center gap-2 border-b border-rule pb-2">
        {renaming ? (
          <Rename
            name={production.name}
            label="Name of the production"
            className="text-[16px] font-semibold"
            onRename={(name) => rename('production', production.id, name)}
            onEnd={() => setRenaming(false)}
          />
        ) : (
          <h2 className="text-[16px] font-semibold">{production.name}</h2>
        )}
        <span className="num text-ink-3">
          {production.shots.length} {production.shots.length === 1 ? 'shot' : 'shots'}
        </span>
        <span className="flex-1" />
        <Button onClick={() => setMaking(true)}>New shot</Button>
        <Menu
          label={`More for ${production.name}`}
          items={[
            { label: 'Rename', takesFocus: true, onSelect: () => setRenaming(true) },
            {
              label: 'Delete',
              danger: true,
              onSelect: () => remove('production', production.id, production.name),
            },
          ]}
        />
      </div>
      {production.shots.length === 0 ? (
        <p className="text-ink-2">No shots yet. Make one, then drop a layered painting on it.</p>
      ) : (
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(340px,1fr))] gap-5">
          {production.shots.map((shot) => (
            <ShotTile
              key={shot.id}
              shot={shot}
              onRename={(name) => rename('shot', shot.id, name)}
              onDelete={() => remove('shot', shot.id, shot.name)}
            />
          ))}
        </ul>
      )}
      {making && <NewShotDialog productionId={production.id} onClose={() => setMaking(false)} />}
    </section>
  );
}

function ShotTile({
  shot,
  onRename,
  onDelete,
}: {
  shot: ShotCard;
  onRename: (name: string) => void;
  onDelete: () => void;
}) {
  const [renaming, setRenaming] = useState(false);
  const seconds = formatSeconds(secondsOfFrames(shot.lengthFrames, shot.rate));
  const first = shot.planes === 0 ? 'art' : 'stage';
  return (
    <li>
      <Link
        to={`/shots/${shot.id}/${first}`}
        aria-label={`Open ${shot.name}`}
        className="block border border-rule bg-[#2e2e2e] hover:border-ink"
      >
        {shot.planes === 0 ? (
          <span className="grid aspect-video place-items-center text-[12px] text-white">No art yet</span>
        ) : (
          <img
            src={`/api/shots/${shot.id}/picture?revision=${shot.revision}`}
            alt=""
            className="aspect-video w-full object-contain"
          />
        )}
      </Link>
      <div className="mt-1.5 flex items-start gap-1">
        <div className="min-w-0 flex-1">
          {renaming ? (
            <Rename
              name={shot.name}
              label="Name of the shot"
              className="w-full"
              onRename={onRename}
              onEnd={() => setRenaming(false)}
            />
          ) : (
            <p className="truncate font-semibold" title={shot.name}>
              {shot.name}
            </p>
          )}
          <p className="num text-ink-2">
            {shot.frame.widthPx} × {shot.frame.heightPx} · {shot.lengthFrames} f · {seconds} ·{' '}
            {rationalText(shot.rate)}
          </p>
        </div>
        <Menu
          label={`More for ${shot.name}`}
          items={[
            { label: 'Rename', takesFocus: true, onSelect: () => setRenaming(true) },
            { label: 'Delete', danger: true, onSelect: onDelete },
          ]}
        />
      </div>
    </li>
  );
}
