/** The four corners in their places: left column left wheels, top row front. */
import type { ReactNode } from 'react';
import { CORNERS, PLACE_WORDS } from '../lib/vocabulary';

export function Corners({
  middle,
  corner,
}: {
  middle?: ReactNode;
  corner: (place: string) => ReactNode;
}) {
  return (
    <div className={`corners${middle ? ' has-middle' : ''}`}>
      {CORNERS.map((place) => (
        <section key={place} className={`corner corner-${place}`} aria-label={PLACE_WORDS[place]}>
          <h2>
            {place} <small>{PLACE_WORDS[place]}</small>
          </h2>
          {corner(place)}
        </section>
      ))}
      {middle && <div className="corner-middle">{middle}</div>}
    </div>
  );
}
