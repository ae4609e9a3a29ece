import type { ShotCard } from '@keen-ridge/core/contract/wall';
import type { Author } from '@keen-ridge/core/history';
import { changeMany } from '../../api/many.ts';
import { uploadArt } from '../../api/upload.ts';
import { sayChanged } from '../../edits/said-changed.ts';
import { whileTold } from '../../edits/while-told.ts';
import { counted } from '../../ui/format.ts';
import { wallWords as say } from '../../words/wall.ts';

/** Brings paintings in, and lets the shots take them where they use files of the same names. */
export async function takeNewArt(
  shots: readonly ShotCard[],
  files: readonly File[],
  author: Author,
): Promise<void> {
  const done = await whileTold(say.readingCounted(counted(files.length, 'file')), async (signal) => {
    const read = [];
    for (const file of files) read.push(await uploadArt(file, { onProgress: () => {}, signal }));
    const paintings = read.flatMap((art) => art.paintings);
    const shotIds = shots.map(({ id }) => id);
    return changeMany({ shotIds, author, change: { kind: 'art', paintings } }, signal);
  });
  if (done) sayChanged(done);
}
