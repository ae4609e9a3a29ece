import { useRef } from 'react';
import { toast } from 'sonner';
import { openArchive, useWallChange } from '../../api/queries.ts';
import { whileTold } from '../../edits/while-told.ts';
import { Button } from '../../ui/button.tsx';
import { wallWords as say } from '../../words/wall.ts';

/** Opens a production that left as an archive. */
export function ArchiveButton() {
  const chooser = useRef<HTMLInputElement>(null);
  const open = useWallChange(openArchive);
  const take = async (file: File) => {
    const opened = await whileTold(say.openingName(file.name), (signal) =>
      open.mutateAsync({ file, signal }),
    );
    if (!opened) return;
    const { name, leftOut } = opened;
    if (leftOut.length === 0) toast.success(say.productionIsOpen(name));
    else toast.warning(say.nameIsOpenWithout(name, leftOut.join('; ')), { duration: 20_000 });
  };
  return (
    <>
      <Button title={say.openProductionMeans} onClick={() => chooser.current?.click()}>
        {say.openProduction}
      </Button>
      <input
        ref={chooser}
        type="file"
        accept=".zip"
        hidden
        aria-label={say.archiveToOpen}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) void take(file);
        }}
      />
    </>
  );
}
