import type { Paint } from '@keen-ridge/core/paint';
import type { ArtId, Content } from '@keen-ridge/core/scene';
import { shownArts } from '@keen-ridge/core/staging/content';

/** The painted part of a plane's art, small, on the neutral grey of the surround. */
export function PlaneThumbnail({ content, className }: { content: Content; className: string }) {
  const [art] = shownArts(content);
  if (art) return <ArtThumbnail artId={art.id} className={className} />;
  if (content.kind === 'card')
    return <span className={`block ${className}`} style={{ background: cssOfPaint(content.paint) }} />;
  if (content.kind === 'shapes') {
    const { widthPx, heightPx, shapes } = content;
    return (
      <svg viewBox={`0 0 ${widthPx} ${heightPx}`} className={`bg-[#7d7d7d] ${className}`} aria-hidden="true">
        {shapes.toReversed().map(({ id, path, paint }) => (
          <path
            key={id}
            d={path}
            fill={paint.kind === 'solid' ? paint.colour : (paint.stops[0]?.colour ?? '#000')}
          />
        ))}
      </svg>
    );
  }
  return null;
}

export function ArtThumbnail({ artId, className }: { artId: ArtId; className: string }) {
  return (
    <img
      src={`/api/art/${artId}/thumbnail`}
      alt=""
      draggable={false}
      className={`bg-[#7d7d7d] object-cover ${className}`}
    />
  );
}

const hexWithAlpha = (colour: string, opacity: number): string =>
  `${colour}${Math.round(opacity * 255)
    .toString(16)
    .padStart(2, '0')}`;

/** A paint as a CSS background: the browser's own gradients follow the same specification. */
export function cssOfPaint(paint: Paint): string {
  if (paint.kind === 'solid') return hexWithAlpha(paint.colour, paint.opacity);
  const stops = paint.stops
    .map(({ at, colour, opacity }) => `${hexWithAlpha(colour, opacity)} ${at * 100}%`)
    .join(', ');
  const space = paint.space === 'oklab' ? 'in oklab' : 'in srgb';
  if (paint.kind === 'linear') return `linear-gradient(${paint.angleDeg}deg ${space}, ${stops})`;
  return `radial-gradient(circle farthest-corner at ${paint.centreX * 100}% ${paint.centreY * 100}% ${space}, ${stops})`;
}
