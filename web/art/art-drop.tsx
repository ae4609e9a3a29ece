import { createContext, type ReactNode, useContext } from 'react';
import { useDropzone } from 'react-dropzone';
import { useSession } from '../state/use-session.ts';
import { importFiles } from './import-art.ts';
import { ImportDialog } from './import-dialog.tsx';

const ChooseContext = createContext<() => void>(() => {});

/** Opens the file chooser of the shot. */
export const useChooseArt = (): (() => void) => useContext(ChooseContext);

/** Art may be dropped anywhere on an open shot. */
export function ArtDrop({ children }: { children: ReactNode }) {
  const session = useSession();
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => void importFiles(session, files),
  });
  return (
    <div {...getRootProps()} className="relative h-full">
      <input {...getInputProps()} aria-label="Art files" data-testid="art-files" />
      <ChooseContext value={open}>{children}</ChooseContext>
      {isDragActive && (
        <div className="pointer-events-none absolute inset-0 z-30 grid place-items-center border-4 border-select bg-select-wash/85 text-[18px] font-semibold">
          Let go to put the art on the stage
        </div>
      )}
      <ImportDialog />
    </div>
  );
}
