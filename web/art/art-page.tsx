import { planesOf } from '@keen-ridge/core/scene/records';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { useChooseArt } from '../bring-in/art-drop.tsx';
import { Shelf } from '../bring-in/shelf.tsx';
import { newCard, newShapes } from '../edits/art-edits.ts';
import { usePlaneCommands } from '../edits/plane-commands.ts';
import { useChoosing } from '../picture/choosing.tsx';
import { Picture } from '../picture/picture.tsx';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { artWords as say } from '../words/art.ts';
import { ArtPanel } from './panel/art-panel.tsx';
import { StackList } from './stack/stack-list.tsx';

/** Bring art in, sort it, and make what has no file: the stack beside the picture. */
export function ArtPage() {
  const session = useSession();
  const navigate = useNavigate();
  const choosing = useChoosing();
  const empty = useSessionState((state) => planesOf(state.scene).length === 0);
  usePlaneCommands();
  const choose = useChooseArt();
  const [shelfOpen, setShelfOpen] = useState(false);
  useEffect(() => () => session.setOnion(null), [session]);
  const tools = (
    <>
      <Button onClick={() => newCard(session)}>{say.newCard}</Button>
      <Button onClick={() => void navigate(`shapes/${newShapes(session)}`)}>{say.newShapes}</Button>
      <Button on={shelfOpen} onClick={() => setShelfOpen(!shelfOpen)}>
        {say.artShelf}
      </Button>
    </>
  );
  return (
    <main className="flex min-h-0 flex-1">
      <section
        aria-label={say.stack}
        className="flex min-h-0 w-[560px] shrink-0 flex-col border-r border-rule"
      >
        <div className="flex h-[38px] shrink-0 items-center gap-2 border-b border-rule bg-bar px-3">
          <h1 className="font-semibold">{say.art}</h1>
          <span className="flex-1" />
          {tools}
          <Button tone="strong" onClick={choose}>
            {say.bringIn}
          </Button>
        </div>
        {shelfOpen && <Shelf />}
        {empty ? <FirstArt /> : <StackList />}
      </section>
      <section aria-label={say.picture} className="flex min-h-0 min-w-0 flex-1 flex-col">
        <Picture
          margin={0.06}
          label={say.pictureThroughTheCameraClick}
          cursor="default"
          grasp={choosing.press}
          over={choosing.draw}
        />
        <ArtPanel />
      </section>
    </main>
  );
}

function FirstArt() {
  const choose = useChooseArt();
  return (
    <div className="grid min-h-0 flex-1 place-items-center px-6">
      <div className="border border-dashed border-ink-3 bg-raised px-8 py-10 text-center">
        <h2 className="text-[18px] font-semibold">{say.bringThePainting}</h2>
        <p className="mt-2 text-ink-2">{say.dropItAnywhereOnThis}</p>
        <Button tone="strong" className="mt-5" onClick={choose}>
          {say.chooseFiles}
        </Button>
        <p className="mt-5 text-[12px] text-ink-2">{say.paintTwoToThreeFrames}</p>
      </div>
    </div>
  );
}
