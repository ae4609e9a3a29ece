import type { ArtId } from '@keen-ridge/core/document';

/** The painted part of a plane's art, small, on the neutral grey of the surround. */
export function PlaneThumbnail({ artId, className }: { artId: ArtId; className: string }) {
  return (
    <img
      src={`/api/art/${artId}/thumbnail`}
      alt=""
      draggable={false}
      className={`bg-[#7d7d7d] object-cover ${className}`}
    />
  );
}
