import type { ShotCard } from '@keen-ridge/core/contract/wall';
import { type GivenAs, withSetUp } from '@keen-ridge/core/edits/shot';
import { differenceBetween } from '@keen-ridge/core/history';
import { planeIdSchema } from '@keen-ridge/core/scene';
import { readShot, sendOp } from '../api/shot.ts';
import { useAuthor } from '../session/author.ts';

/** Gives the set-up of one shot to another, as one edit of that one. False where it had it already. */
export async function giveSetUp({
  from,
  to,
  as,
}: {
  from: ShotCard;
  to: ShotCard;
  as: GivenAs;
}): Promise<boolean> {
  const author = useAuthor.getState();
  const [source, goal] = await Promise.all([readShot(from.id, author.id), readShot(to.id, author.id)]);
  const idOf = () => planeIdSchema.parse(crypto.randomUUID());
  const patch = differenceBetween(goal.scene, withSetUp(goal.scene, source.scene, as, idOf));
  if (patch.length === 0) return false;
  const op = { kind: 'edit', action: 'give-set-up', subject: source.name, patch } as const;
  await sendOp(to.id, { opId: crypto.randomUUID(), revision: goal.revision, author, op });
  return true;
}
