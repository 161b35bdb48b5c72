/** Two slopes off an angle gauge, each with the way it points, and the pinion angle between them. */

export interface GaugeRead {
  /** Degrees without a sign, as the gauge shows them. */
  degrees: string;
  /** Whether it rises towards the front of the car. */
  rises: boolean;
}

/** Degrees with their sign, + uphill to the front; nothing where no bare number was typed. */
export function slopeOf({ degrees, rises }: GaugeRead): number | null {
  const text = degrees.trim().replace(',', '.');
  if (!/^\d+(\.\d+)?$/.test(text)) return null;
  const size = Number(text);
  if (size > 45) return null;
  return rises ? size : -size;
}

/** Pinion slope less shaft slope [°], − nose down; nothing until both are read. */
export function pinionAngle(pinion: GaugeRead, shaft: GaugeRead): number | null {
  const [a, b] = [slopeOf(pinion), slopeOf(shaft)];
  return a === null || b === null ? null : Math.round((a - b) * 100) / 100;
}
