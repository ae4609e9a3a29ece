import { createContext, type ReactNode, useContext, useEffect } from 'react';
import { useDropzone } from 'react-dropzone';
import { useNavigate } from 'react-router';
import { useShelf } from '../api/art.ts';
import { takeFromShelf } from '../edits/carry-planes.ts';
import { tellFault } from '../edits/while-told.ts';
import { useSession } from '../session/use-session.ts';
import { bringInWords as say } from '../words/bring-in.ts';
import { takeDropped } from './drop/dropped.ts';
import { ImportDialog } from './import-dialog.tsx';
import { closeImport } from './import-store.ts';
import { SHELF_DRAG } from './shelf.tsx';

const ChooseContext = createContext<() => void>(() => {});

/** Opens the file chooser of the shot. */
export const useChooseArt = (): (() => void) => useContext(ChooseContext);

/** Art may be dropped anywhere on an open shot. */
export function ArtDrop({ children }: { children: ReactNode }) {
  const session = useSession();
  const navigate = useNavigate();
  const shelf = useShelf(session.shot.productionId);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => {
      takeDropped(session, files, (path) => void navigate(path)).catch(tellFault);
    },
  });
  // What is still being read would land in whatever shot is opened next.
  useEffect(() => closeImport, []);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the whole page takes drops; every piece can also be clicked
    <div
      {...getRootProps()}
      className="relative h-full"
      onDragOver={(event) => event.dataTransfer.types.includes(SHELF_DRAG) && event.preventDefault()}
      onDropCapture={(event) => {
        const id = event.dataTransfer.getData(SHELF_DRAG);
        const piece = shelf.data?.pieces.find((p) => p.id === id);
        if (!piece) return;
        event.preventDefault();
        event.stopPropagation();
        takeFromShelf(session, piece);
      }}
    >
      <input {...getInputProps()} aria-label={say.artFiles} data-testid="art-files" />
      <ChooseContext value={open}>{children}</ChooseContext>
      {isDragActive && (
        <div className="pointer-events-none absolute inset-0 z-30 grid place-items-center border-4 border-select bg-select-wash/85 text-[18px] font-semibold">
          {say.letGoToLookAt}
        </div>
      )}
      <ImportDialog />
    </div>
  );
}
