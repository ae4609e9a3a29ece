import { randomUUID } from 'node:crypto';
import { asPaintings, type ImportedPainting, paintedLayers } from '@keen-ridge/core/art/landing';
import type { ChangedMany, ChangeMany, ManyChange } from '@keen-ridge/core/contract/many';
import { versionByNames } from '@keen-ridge/core/edits/art';
import { setFrameSize, setRate, setRateKeepingSeconds } from '@keen-ridge/core/edits/shot';
import type { EditAction } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { rationalText } from '@keen-ridge/core/units';
import type { Database } from '../db/connection/queryable.ts';
import { readSetUp } from '../db/shots.ts';
import { changeShot } from './history.ts';

/**
 * Does the same to several shots, each by itself, as an edit of its own that is seen and undone like any other: what one
 * cannot take does not stand in the way of the others.
 */
export async function changeMany(
  db: Database,
  { shotIds, author, change }: ChangeMany,
  signal: AbortSignal,
): Promise<ChangedMany> {
  const done: ChangedMany = { changed: [], same: [], left: [] };
  for (const id of shotIds) {
    signal.throwIfAborted();
    const { name } = await readSetUp(db, id);
    const edit = { opId: randomUUID(), author, ...ACTIONS[change.kind](change) };
    const made = await db.transaction(async (tx) => {
      let why: string | null = null;
      const taken = await changeShot(tx, id, edit, (scene) => {
        const next = changed(scene, change);
        if (typeof next !== 'string') return next;
        why = next;
        return scene;
      });
      return why === null ? taken : ({ kind: 'left', why } as const);
    });
    if (made.kind === 'left') done.left.push({ id, name, why: made.why });
    else done[made.kind].push({ id, name });
  }
  return done;
}

interface Said {
  readonly action: EditAction;
  readonly subject: string;
}

const ACTIONS: { readonly [K in ManyChange['kind']]: (change: ManyChange) => Said } = {
  rate: (change) => ({
    action: 'set-rate',
    subject: change.kind === 'rate' ? rationalText(change.rate) : '',
  }),
  size: (change) => ({
    action: 'set-frame-size',
    subject: change.kind === 'size' ? `${change.widthPx} × ${change.heightPx}` : '',
  }),
  art: (change) => ({
    action: 'new-version',
    subject:
      change.kind === 'art'
        ? change.paintings
            .map(({ file }) => file)
            .join(', ')
            .slice(0, 200)
        : '',
  }),
};

/** The scene after the change, or why it cannot be. */
function changed(scene: Scene, change: ManyChange): Scene | string {
  switch (change.kind) {
    case 'rate':
      if (rationalText(scene.rate) === rationalText(change.rate)) return scene;
      return change.keep === 'seconds'
        ? setRateKeepingSeconds(scene, change.rate)
        : setRate(scene, change.rate);
    case 'size': {
      const { widthPx, heightPx } = change;
      const isSame = scene.frame.widthPx === widthPx && scene.frame.heightPx === heightPx;
      return isSame ? scene : setFrameSize(scene, widthPx, heightPx);
    }
    case 'art':
      return withPaintings(scene, change.paintings);
  }
}

function withPaintings(scene: Scene, imported: readonly ImportedPainting[]): Scene | string {
  let next = scene;
  for (const painting of asPaintings([...imported], scene.rate)) {
    const taken = versionByNames(next, painting.file, paintedLayers(painting, scene.rate));
    if (taken === 'cut') return `${painting.file} was cut in it: open the shot, and take the version there`;
    next = taken;
  }
  return next;
}
