import { SAME } from '../tolerance';
import { fromMm, type LengthUnit } from './length';

const MINUS = '\u2212';

/** Sensible places: 0.01 mm, 0.001 in. */
export const lengthPlaces = (unit: LengthUnit): number => (unit === 'mm' ? 2 : 3);

/** Fixed places with a true minus sign and never “−0.00”. */
export function fixed(value: number, places: number): string {
  const text = Math.abs(value).toFixed(places);
  return value < 0 && Number(text) !== 0 ? MINUS + text : text;
}

/** Like `fixed`, with a plus sign on positive values. */
export function signed(value: number, places: number): string {
  const text = fixed(value, places);
  return value > 0 && Number(text) !== 0 ? `+${text}` : text;
}

/** A length without its unit, in the user's unit. */
export const lengthFigure = (valueMm: number, unit: LengthUnit): string =>
  fixed(fromMm(valueMm, unit), lengthPlaces(unit));

export const lengthText = (valueMm: number, unit: LengthUnit): string =>
  `${lengthFigure(valueMm, unit)} ${unit}`;

/** A length that was chosen, not measured: no more places than it needs. */
export const plainLength = (valueMm: number, unit: LengthUnit): string =>
  `${Number(fromMm(valueMm, unit).toFixed(lengthPlaces(unit)))} ${unit}`;

/** A length as a field shows it: up to a micrometre or so, no padding. */
export const fieldLength = (valueMm: number, unit: LengthUnit): string =>
  String(Number(fromMm(valueMm, unit).toFixed(unit === 'mm' ? 3 : 4)));

export const signedLengthFigure = (valueMm: number, unit: LengthUnit): string =>
  signed(fromMm(valueMm, unit), lengthPlaces(unit));

/** Places after the point that a step needs: 0.05 → 2, 1 → 0, 0.0005 → 4; at most 6. */
export function placesOfStep(step: number): number {
  for (let places = 0; places < 6; places += 1) {
    const scaled = step * 10 ** places;
    if (Math.abs(scaled - Math.round(scaled)) < SAME * Math.max(1, scaled)) return places;
  }
  return 6;
}

export const OFFSET_AXES = ['across', 'along'] as const;
export type OffsetAxis = (typeof OFFSET_AXES)[number];

/** The word for the way an offset points: right/left across the media, further/back along the feed. */
export function directionWord(offset: number, axis: OffsetAxis): string {
  if (axis === 'across') return offset >= 0 ? 'right' : 'left';
  return offset >= 0 ? 'further along' : 'back';
}

/** “0.42 mm right”, or “0.00 mm” when nothing is left to point. */
export function offsetText(offsetMm: number, axis: OffsetAxis, unit: LengthUnit): string {
  const size = lengthText(Math.abs(offsetMm), unit);
  return Number.parseFloat(size) === 0 ? size : `${size} ${directionWord(offsetMm, axis)}`;
}

export const degrees = (rad: number): number => (rad * 180) / Math.PI;

export const angleFigure = (rad: number): string => `${fixed(degrees(rad), 2)}°`;

/** Both ways of a move, mm, in a sentence; empty where it goes neither way. */
export const wayText = ({ x, y }: { readonly x: number; readonly y: number }, unit: LengthUnit): string =>
  [
    ...(x === 0 ? [] : [offsetText(x, 'across', unit)]),
    ...(y === 0 ? [] : [offsetText(y, 'along', unit)]),
  ].join(' and ');
