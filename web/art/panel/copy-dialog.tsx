import type { CopyLook } from '@keen-ridge/core/edits/planes';
import type { Content, Plane } from '@keen-ridge/core/scene';
import { reasonOf } from '@keen-ridge/core/units';
import { useState } from 'react';
import { changeArt } from '../../api/art.ts';
import { addCopy } from '../../edits/art-edits.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog } from '../../ui/dialog.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { artWords as say } from '../../words/art.ts';

interface Recolour {
  readonly hueDeg: number;
  readonly saturation: number;
  readonly brightness: number;
}
const AS_IT_IS: Recolour = { hueDeg: 0, saturation: 1, brightness: 1 };

/** A copy in the same shot that does not look like one: flipped, turned, squashed, recoloured. */
export function CopyDialog({ plane, onClose }: { plane: Plane; onClose: () => void }) {
  const session = useSession();
  const [look, setLook] = useState<CopyLook>({
    flipX: true,
    flipY: false,
    turnDeg: 0,
    squashX: 1,
    squashY: 1,
    shiftXSpx: Math.round(session.state.scene.frame.widthPx / 4),
  });
  const [recolour, setRecolour] = useState(AS_IT_IS);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const change = (part: Partial<CopyLook>) => setLook((was) => ({ ...was, ...part }));
  const still = plane.content.kind === 'still' ? plane.content : null;
  const make = async () => {
    setBusy(true);
    try {
      const content = still && recolour !== AS_IT_IS ? await recoloured(still, recolour) : undefined;
      addCopy(session, plane.id, look, content);
      onClose();
    } catch (error) {
      setFault(reasonOf(error));
      setBusy(false);
    }
  };
  return (
    <Dialog open onClose={onClose} title={say.copyName(plane.name)} width={440}>
      <div className="grid grid-cols-3 gap-2">
        <Button on={look.flipX} onClick={() => change({ flipX: !look.flipX })}>
          {say.flipEW}
        </Button>
        <Button on={look.flipY} onClick={() => change({ flipY: !look.flipY })}>
          {say.flipNS}
        </Button>
        <span />
        <NumberField
          label={say.turn}
          unit="°"
          decimals={1}
          value={look.turnDeg}
          onCommit={(turnDeg) => change({ turnDeg })}
        />
        <NumberField
          label={say.squashWidthTo}
          unit="%"
          min={1}
          max={1000}
          value={look.squashX * 100}
          onCommit={(v) => change({ squashX: v / 100 })}
        />
        <NumberField
          label={say.squashHeightTo}
          unit="%"
          min={1}
          max={1000}
          value={look.squashY * 100}
          onCommit={(v) => change({ squashY: v / 100 })}
        />
        <NumberField
          label={say.standsOffE}
          unit="px"
          value={look.shiftXSpx}
          onCommit={(shiftXSpx) => change({ shiftXSpx })}
        />
      </div>
      {still && (
        <fieldset className="mt-3 grid grid-cols-3 gap-2 border-t border-rule pt-3">
          <legend className="sr-only">{say.recolour}</legend>
          <NumberField
            label={say.hueBy}
            unit="°"
            min={-180}
            max={180}
            value={recolour.hueDeg}
            onCommit={(hueDeg) => setRecolour({ ...recolour, hueDeg })}
          />
          <NumberField
            label={say.saturationTo}
            unit="%"
            min={0}
            max={400}
            value={recolour.saturation * 100}
            onCommit={(v) => setRecolour({ ...recolour, saturation: v / 100 })}
          />
          <NumberField
            label={say.brightnessTo}
            unit="%"
            min={0}
            max={400}
            value={recolour.brightness * 100}
            onCommit={(v) => setRecolour({ ...recolour, brightness: v / 100 })}
          />
        </fieldset>
      )}
      {fault && (
        <p role="alert" className="mt-3 text-fault">
          {fault}
        </p>
      )}
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>{say.cancel}</Button>
        <Button tone="strong" disabled={busy} onClick={() => void make()}>
          {busy ? say.copying : say.makeTheCopy}
        </Button>
      </div>
    </Dialog>
  );
}

async function recoloured(
  content: Extract<Content, { kind: 'still' }>,
  recolour: Recolour,
): Promise<Content> {
  const from = content.made?.kind === 'recoloured' ? content.made.from : content.art;
  const { art } = await changeArt(from.id, { kind: 'recolour', ...recolour });
  return { kind: 'still', art, made: { kind: 'recoloured', from, ...recolour } };
}
