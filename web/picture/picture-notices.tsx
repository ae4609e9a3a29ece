import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import type { PictureFit } from '../viewport/place.ts';
import { pictureWords as say } from '../words/picture.ts';
import type { PictureState } from './live/renderer.ts';

/** A picture that leaves planes out must say so, on every step. */
export function SoloNotice() {
  const session = useSession();
  const count = useSessionState((state) => state.solo.length);
  if (count === 0) return null;
  return (
    <div className="absolute left-3 top-3 flex items-center gap-2 border border-rule bg-raised py-1 pl-2 pr-1">
      <span>{count === 1 ? say.onlyOnePlaneIsShown : say.onlySomePlanesAreShown(count)}</span>
      <Button onPointerDown={(event) => event.stopPropagation()} onClick={() => session.setSolo([])}>
        {say.showAll}
      </Button>
    </div>
  );
}

/** What is amiss with a picture, or on its way. */
export function PictureNotice({
  state,
  empty,
  fit,
}: {
  state: PictureState;
  empty: boolean;
  fit: PictureFit;
}) {
  if (state.kind === 'failed') {
    return (
      <p
        role="alert"
        className="absolute inset-x-0 top-1/2 mx-auto w-fit max-w-md border border-fault bg-raised px-4 py-2 text-fault"
      >
        {state.reason}
      </p>
    );
  }
  if (empty) {
    return (
      <p
        className="pointer-events-none absolute inset-x-0 mx-auto w-fit bg-raised/95 px-4 py-2"
        style={{ top: fit.top + fit.height / 2 - 18 }}
      >
        {say.nothingOnTheStageYet}
      </p>
    );
  }
  if (state.kind === 'loading' && state.done < state.total) {
    return (
      <p role="status" className="num absolute bottom-3 left-3 bg-black/80 px-2 py-1 text-white">
        {say.loadingArtDoneTotal(state.done, state.total)}
      </p>
    );
  }
  return null;
}
