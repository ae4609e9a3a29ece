import type { Offer } from '@keen-ridge/core/contract/many';
import { dropOffer, takeOffer, useForgetOffers, useOffers } from '../api/many.ts';
import { useWallChange } from '../api/queries.ts';
import { useAuthor } from '../session/author.ts';
import { Button } from '../ui/button.tsx';
import { counted } from '../ui/format.ts';
import { editsWords as say } from '../words/edits.ts';
import { sayChanged } from './said-changed.ts';
import { tellFault, whileTold } from './while-told.ts';

/**
 * What a painter has saved in the watched folder, for all shots that use it or for the one that is open; not there while
 * there is nothing.
 */
export function OffersBar({ shotId }: { shotId?: string }) {
  const all = useOffers().data?.offers ?? [];
  const offers = all.flatMap((offer) => {
    const shots = offer.shots.filter(({ id }) => shotId === undefined || id === shotId);
    return shots.length > 0 ? [{ ...offer, shots }] : [];
  });
  if (offers.length === 0) return null;
  return (
    <section aria-label={say.savedPaintings} className="border-b border-rule bg-select-wash px-6 py-1.5">
      {offers.map((offer) => (
        <OfferRow key={offer.id} offer={offer} />
      ))}
    </section>
  );
}

function OfferRow({ offer }: { offer: Offer }) {
  const author = useAuthor();
  const forget = useForgetOffers();
  const take = useWallChange(async () => {
    const shotIds = offer.shots.map(({ id }) => id);
    const done = await whileTold(say.changingThem(counted(shotIds.length, 'shot')), (signal) =>
      takeOffer(offer.id, { shotIds, author }, signal),
    );
    if (done) sayChanged(done);
    forget();
  });
  const drop = useWallChange(async () => {
    await dropOffer(offer.id);
    forget();
  });
  const names = offer.shots.map(({ name }) => name).join(', ');
  return (
    <div className="flex items-center gap-2 py-0.5">
      <span className="min-w-0 flex-1 truncate" title={names}>
        {offer.fault ?? say.wasSaved(offer.file, names)}
      </span>
      {offer.fault === null && (
        <Button disabled={take.isPending} onClick={() => take.mutate(undefined, { onError: tellFault })}>
          {say.takeTheVersion(counted(offer.shots.length, 'shot'))}
        </Button>
      )}
      <Button
        tone="bare"
        disabled={drop.isPending}
        onClick={() => drop.mutate(undefined, { onError: tellFault })}
      >
        {say.notNow}
      </Button>
    </div>
  );
}
