import type { Production, ShotCard } from '@keen-ridge/core/contract/wall';
import { GIVEN_AS, type GivenAs } from '@keen-ridge/core/edits/shot';
import { useState } from 'react';
import { toast } from 'sonner';
import { useWallChange } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { Select } from '../ui/fields/select.tsx';
import { wallWords as say } from '../words/wall.ts';
import { giveSetUp } from './give-set-up.ts';
import { setGiving } from './giving.ts';

const AS_WORDS: Readonly<Record<GivenAs, string>> = {
  planes: say.itsPlanesInFront,
  everything: say.everythingInstead,
};
const AS_SENTENCES: Readonly<Record<GivenAs, string>> = {
  planes: say.planesComeBefore,
  everything: say.everythingTakesThePlace,
};

/** Asks to which shot a set-up goes, and how. */
export function GiveDialog({
  from,
  to: wanted,
  productions,
}: {
  from: ShotCard;
  to: ShotCard | null;
  productions: readonly Production[];
}) {
  const others = productions.flatMap((production) =>
    production.shots
      .filter(({ id }) => id !== from.id)
      .map((shot) => ({ shot, words: `${production.name} · ${shot.name}` })),
  );
  const [toId, setToId] = useState(wanted?.id ?? others[0]?.shot.id ?? '');
  const [as, setAs] = useState<GivenAs>('planes');
  const give = useWallChange(giveSetUp);
  const to = others.find(({ shot }) => shot.id === toId)?.shot;
  const close = () => setGiving(null);
  return (
    <Dialog open onClose={close} title={say.giveTheSetUpOf(from.name)} width={460}>
      <div className="flex flex-col gap-4">
        <Select
          label={say.to}
          options={others.map(({ shot }) => shot.id)}
          words={Object.fromEntries(others.map(({ shot, words }) => [shot.id, words]))}
          value={toId}
          onChange={setToId}
        />
        <div>
          <Choice label={say.what} options={GIVEN_AS} words={AS_WORDS} value={as} onChange={setAs} />
          <p className="mt-1.5 text-ink-2">{AS_SENTENCES[as]}</p>
        </div>
        {give.isError && (
          <p role="alert" className="text-fault">
            {give.error.message}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={close}>{say.cancel}</Button>
          <Button
            tone="strong"
            disabled={!to || give.isPending}
            onClick={() =>
              to &&
              give.mutate(
                { from, to, as },
                {
                  onSuccess: (changed) => {
                    close();
                    toast(
                      changed
                        ? say.nameHasTheSetUp(to.name, from.name)
                        : say.nameHadItAlreadyNothing(to.name),
                    );
                  },
                },
              )
            }
          >
            {say.give}
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
