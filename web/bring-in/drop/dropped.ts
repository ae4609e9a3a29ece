import { toast } from 'sonner';
import { openPackage } from '../../api/queries.ts';
import { uploadSound } from '../../api/sound.ts';
import { layUnder } from '../../edits/sound-edits.ts';
import { whileTold } from '../../edits/while-told.ts';
import type { Session } from '../../session/session.ts';
import { bringInWords as say } from '../../words/bring-in.ts';
import { importFiles } from '../import-store.ts';

/** The directory of a zip lies at its end: so much of it tells whether a scene is among the first parts. */
const TAIL_BYTES = 4 * 2 ** 20;

/** Whether a file is an open package and no zip of pictures: its directory names a scene (APPNOTE 6.3.10, 4.3.12). */
export async function isPackage(file: Blob & { readonly name: string }): Promise<boolean> {
  if (!/\.zip$/i.test(file.name)) return false;
  const tail = new Uint8Array(await file.slice(-TAIL_BYTES).arrayBuffer());
  // As Latin-1, byte by byte: a header of the directory, its name 42 bytes on.
  const text = new TextDecoder('latin1').decode(tail);
  for (let at = text.indexOf('PK\x01\x02'); at >= 0; at = text.indexOf('PK\x01\x02', at + 4))
    if (text.startsWith('scene.json', at + 46) && text.charCodeAt(at + 28) === 'scene.json'.length)
      return true;
  return false;
}

const isSound = ({ name }: File): boolean => /\.(wav|mp3|ogg|oga|flac)$/i.test(name);

/** What was dropped on an open shot or chosen for it: packages are shots beside it, a sound lies under it, the rest is art. */
export async function takeDropped(
  session: Session,
  files: readonly File[],
  goTo: (path: string) => void,
): Promise<void> {
  const art: File[] = [];
  for (const file of files) {
    if (await isPackage(file)) await openBeside(session, file, goTo);
    else if (isSound(file)) await bringInSound(session, file);
    else art.push(file);
  }
  if (art.length > 0 && !session.isClosed) await importFiles(session, art);
}

async function openBeside({ shot }: Session, file: File, goTo: (path: string) => void): Promise<void> {
  const { productionId } = shot;
  const opened = await whileTold(say.openingPackage(file.name), (signal) =>
    openPackage({ productionId, file, signal }),
  );
  if (!opened) return;
  const { id, name, leftOut } = opened;
  const action = { label: say.goThere, onClick: () => goTo(`/shots/${id}/stage`) };
  if (leftOut.length === 0) toast.success(say.isAShotBeside(name), { action, duration: 10_000 });
  else toast.warning(say.isAShotWithout(name, leftOut.join('; ')), { action, duration: 20_000 });
}

async function bringInSound(session: Session, file: File): Promise<void> {
  const taken = await whileTold(say.listeningTo(file.name), (signal) => uploadSound(file, signal));
  if (!taken || session.isClosed) return;
  layUnder(session, taken);
  toast(say.liesUnderTheShot(taken.name), { duration: 2500 });
}
