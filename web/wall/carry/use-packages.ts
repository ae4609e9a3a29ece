import { type DragEvent, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { openPackage, useWallChange } from '../../api/queries.ts';
import { whileTold } from '../../edits/while-told.ts';
import { wallWords as say } from '../../words/wall.ts';

const hasFiles = ({ dataTransfer }: DragEvent): boolean => dataTransfer.types.includes('Files');

/** Packages that are dropped on a production or chosen for it come in as its shots, one after another. */
export function usePackages(productionId: string) {
  const open = useWallChange(openPackage);
  const navigate = useNavigate();
  const [over, setOver] = useState(false);
  const within = useRef(0);

  const openOne = async (file: File) => {
    const opened = await whileTold(say.openingName(file.name), (signal) =>
      open.mutateAsync({ productionId, file, signal }),
    );
    if (!opened) return;
    const { id, name, leftOut } = opened;
    const action = { label: say.openIt, onClick: () => void navigate(`/shots/${id}/stage`) };
    if (leftOut.length === 0) toast.success(say.nameIsOpen(name), { action });
    else toast.warning(say.nameIsOpenWithout(name, leftOut.join('; ')), { action, duration: 20_000 });
  };
  const openAll = async (files: Iterable<File>) => {
    for (const file of files) await openOne(file);
  };
  const end = () => {
    within.current = 0;
    setOver(false);
  };
  return {
    over,
    openAll,
    drop: {
      onDragEnter: (event: DragEvent) => {
        if (!hasFiles(event)) return;
        within.current += 1;
        setOver(true);
      },
      onDragLeave: (event: DragEvent) => {
        if (!hasFiles(event)) return;
        within.current -= 1;
        if (within.current <= 0) end();
      },
      onDragOver: (event: DragEvent) => {
        if (hasFiles(event)) event.preventDefault();
      },
      onDrop: (event: DragEvent) => {
        if (!hasFiles(event)) return;
        event.preventDefault();
        const files = [...event.dataTransfer.files];
        end();
        void openAll(files);
      },
    },
  };
}
