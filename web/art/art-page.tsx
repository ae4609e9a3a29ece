import { deletePlanes, type Plane, renamePlane, setPlanesHidden } from '@keen-ridge/core/document';
import { Eye, EyeOff } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { undoOnce } from '../shot/use-shot-keys.ts';
import { useSession, useSessionState } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { formatNumber } from '../ui/format.ts';
import { Menu } from '../ui/menu.tsx';
import { Rename } from '../ui/rename.tsx';
import { useChooseArt } from './art-drop.tsx';
import { PlaneThumbnail } from './plane-thumbnail.tsx';

/** Bring art in and see what came: every plane with its picture, size and place in the stack. */
export function ArtPage() {
  const planes = useSessionState((state) => state.scene.planes);
  const choose = useChooseArt();
  if (planes.length === 0) return <FirstArt onChoose={choose} />;
  return (
    <main className="min-h-0 flex-1 overflow-auto">
      <div className="mx-auto max-w-[1080px] px-6 py-5">
        <div className="mb-3 flex items-center gap-3">
          <h1 className="text-[14px] font-semibold">Art</h1>
          <span className="num text-ink-2">
            {planes.length} {planes.length === 1 ? 'plane' : 'planes'}, on top first
          </span>
          <span className="flex-1" />
          <Button onClick={choose}>Choose files …</Button>
        </div>
        <ul className="border-t border-rule">
          {planes.map((plane) => (
            <PlaneRow key={plane.id} plane={plane} />
          ))}
        </ul>
        <p className="mt-4 text-ink-2">Drop PNGs or OpenRaster files anywhere on the shot to add more.</p>
      </div>
    </main>
  );
}

function FirstArt({ onChoose }: { onChoose: () => void }) {
  return (
    <main className="grid min-h-0 flex-1 place-items-center">
      <div className="w-[520px] max-w-[90vw] border border-dashed border-ink-3 bg-raised px-10 py-12 text-center">
        <h1 className="text-[18px] font-semibold">Bring the painting</h1>
        <p className="mt-2 text-ink-2">
          Drop layered OpenRaster files or PNGs, one a layer, anywhere on this page. Layers keep their names,
          order and place; PNGs are stacked by name, the first on top.
        </p>
        <Button tone="strong" className="mt-5" onClick={onChoose}>
          Choose files …
        </Button>
        <p className="mt-5 text-[12px] text-ink-2">
          Paint two to three frames wide in the direction of the move, so that nothing runs out.
        </p>
      </div>
    </main>
  );
}

function PlaneRow({ plane }: { plane: Plane }) {
  const session = useSession();
  const frame = useSessionState((state) => state.scene.frame);
  const [renaming, setRenaming] = useState(false);
  const { widthPx, heightPx } = plane.art;
  const share = formatNumber(widthPx / frame.widthPx, 2);
  const edit = session.state.scene;
  const remove = () => {
    session.commit('delete-planes', plane.name, deletePlanes(edit, new Set([plane.id])));
    toast(`Deleted ${plane.name}`, { action: { label: 'Undo', onClick: () => undoOnce(session) } });
  };
  return (
    <li className="grid grid-cols-[120px_1fr_150px_150px_auto_auto] items-center gap-4 border-b border-rule py-2">
      <PlaneThumbnail artId={plane.art.id} className="h-[63px] w-[112px]" />
      {renaming ? (
        <Rename
          name={plane.name}
          label="Name of the plane"
          onRename={(name) =>
            session.commit('rename-plane', plane.name, renamePlane(session.state.scene, plane.id, name))
          }
          onEnd={() => setRenaming(false)}
        />
      ) : (
        <button
          type="button"
          title="Double-click to rename"
          className="truncate text-left font-semibold"
          onDoubleClick={() => setRenaming(true)}
        >
          {plane.name}
        </button>
      )}
      <span className="num text-ink-2">
        {widthPx} × {heightPx} px
      </span>
      <span className="num text-ink-2">{share} frames wide</span>
      <Button
        tone="bare"
        aria-label={plane.hidden ? `Show ${plane.name}` : `Hide ${plane.name}`}
        onClick={() =>
          session.commit(
            plane.hidden ? 'show-planes' : 'hide-planes',
            plane.name,
            setPlanesHidden(session.state.scene, new Set([plane.id]), !plane.hidden),
          )
        }
      >
        {plane.hidden ? <EyeOff size={15} aria-hidden="true" /> : <Eye size={15} aria-hidden="true" />}
      </Button>
      <Menu
        label={`More for ${plane.name}`}
        items={[
          { label: 'Rename', onSelect: () => setTimeout(() => setRenaming(true)) },
          { label: 'Delete', danger: true, onSelect: remove },
        ]}
      />
    </li>
  );
}
