import { type CheckWay } from '@/core/setup';
import { fieldLength, lengthRefusalText, offsetText, parseLength, type LengthUnit } from '@/core/units';

/** What is typed, as it is typed. */
export interface TypedCheck {
  readonly across: string;
  readonly along: string;
  /** The buttons beside them: right and further along, or left and back; null until one is pressed. */
  readonly right: boolean | null;
  readonly further: boolean | null;
  readonly left: string;
  readonly rightGap: string;
  readonly near: string;
  readonly far: string;
}

export type CheckField = Exclude<keyof TypedCheck, 'right' | 'further'>;

export const NOTHING_TYPED: TypedCheck = {
  across: '',
  along: '',
  right: null,
  further: null,
  left: '',
  rightGap: '',
  near: '',
  far: '',
};

/** Offsets of the cut; null for a direction that was not read. */
export interface CheckOffsets {
  readonly dxMm: number | null;
  readonly dyMm: number | null;
}

export interface CheckRead {
  readonly offsets: CheckOffsets;
  /** By field: what is wrong with what was typed there. */
  readonly errors: Partial<Readonly<Record<CheckField, string>>>;
}

/**
 * What was typed as offsets.
 *
 * Signs    right and further along are positive; which way is said by the buttons. Gaps are positive where the cut
 *          lies outside the print: dx = (right − left)/2, dy = (far − near)/2.
 */
export function readCheck(typed: TypedCheck, way: CheckWay, unit: LengthUnit): CheckRead {
  const errors: Partial<Record<CheckField, string>> = {};
  const read = (name: CheckField): number | null => {
    if (typed[name].trim() === '') return null;
    const parsed = parseLength(typed[name], unit);
    if (parsed.ok) return parsed.value;
    errors[name] = lengthRefusalText(parsed.refusal, unit);
    return null;
  };
  if (way !== 'gaps') {
    const signed = (name: 'across' | 'along', plus: boolean | null): number | null => {
      const size = read(name);
      // Nothing lies on no side; anything else waits until somebody says on which.
      if (size === null || size === 0) return size;
      return plus === null ? null : (plus ? 1 : -1) * Math.abs(size);
    };
    const offsets = { dyMm: signed('along', typed.further), dxMm: signed('across', typed.right) };
    return { offsets, errors };
  }
  const half = (plus: CheckField, minus: CheckField): number | null => {
    const [a, b] = [read(plus), read(minus)];
    if ((a === null) === (b === null)) return a === null || b === null ? null : (a - b) / 2;
    const missing = a === null ? plus : minus;
    errors[missing] ??= 'Both gaps of the pair are needed.';
    return null;
  };
  return { offsets: { dxMm: half('rightGap', 'left'), dyMm: half('far', 'near') }, errors };
}

/** The axes of which a size is typed and no side is said. */
export function sidesMissing(typed: TypedCheck, way: CheckWay, unit: LengthUnit): ('along' | 'across')[] {
  if (way === 'gaps') return [];
  const sized = (text: string): boolean => {
    const parsed = parseLength(text, unit);
    return parsed.ok && parsed.value !== 0;
  };
  return [
    ...(typed.further === null && sized(typed.along) ? (['along'] as const) : []),
    ...(typed.right === null && sized(typed.across) ? (['across'] as const) : []),
  ];
}

const SIDES = { along: 'further or back', across: 'left or right' } as const;

/** The same when it is to be kept: something has to be read, and on which side it lies. */
export function wholeCheck(typed: TypedCheck, way: CheckWay, unit: LengthUnit): CheckRead {
  const { offsets, errors: wrong } = readCheck(typed, way, unit);
  const sides = sidesMissing(typed, way, unit).map((axis) => [axis, `Say which side: ${SIDES[axis]}.`]);
  const errors: CheckRead['errors'] = { ...Object.fromEntries(sides), ...wrong };
  const nothing =
    Object.keys(errors).length === 0 && offsets.dxMm === null && offsets.dyMm === null
      ? {
          [way === 'gaps' ? 'left' : 'along']:
            'Enter at least one direction; 0 when the cut is where it should be.',
        }
      : {};
  return { offsets, errors: { ...errors, ...nothing } };
}

/** With an offset put in, as a picture or an arrow key does. */
export const withOffset = (
  typed: TypedCheck,
  axis: 'across' | 'along',
  mm: number,
  unit: LengthUnit,
): TypedCheck => ({
  ...typed,
  [axis]: fieldLength(Math.abs(mm), unit),
  [axis === 'along' ? 'further' : 'right']: mm >= 0,
});

/** With a field typed into: a sign presses the button of its direction. */
export function withTyped(typed: TypedCheck, name: CheckField, text: string): TypedCheck {
  const sign = /^\s*([+\-\u2212])/.exec(text)?.[1];
  const way =
    sign === undefined ? {} : name === 'along' ? { further: sign === '+' } : { right: sign === '+' };
  return { ...typed, ...(name === 'along' || name === 'across' ? way : {}), [name]: text };
}

/** With a direction's button pressed: it counts, a typed sign that says otherwise goes. */
export const withWay = (typed: TypedCheck, axis: 'across' | 'along', plus: boolean): TypedCheck => ({
  ...typed,
  [axis === 'along' ? 'further' : 'right']: plus,
  [axis]: typed[axis].replace(/^\s*[+\-\u2212]/, ''),
});

/** One press of an arrow key: what an eye at a loupe tells apart, or finer. */
export const nudgeMm = (unit: LengthUnit, fine: boolean): number =>
  unit === 'mm' ? (fine ? 0.01 : 0.05) : 25.4 * (fine ? 0.0005 : 0.002);

/** The offsets after a press of an arrow key; null for any other key. */
export function nudged(
  { dxMm, dyMm }: CheckOffsets,
  key: string,
  fine: boolean,
  unit: LengthUnit,
): { readonly axis: 'across' | 'along'; readonly mm: number } | null {
  const step = nudgeMm(unit, fine);
  const moved = (from: number | null, by: number): number => Math.round(((from ?? 0) + by) * 1e4) / 1e4;
  switch (key) {
    case 'ArrowRight':
      return { axis: 'across', mm: moved(dxMm, step) };
    case 'ArrowLeft':
      return { axis: 'across', mm: moved(dxMm, -step) };
    case 'ArrowUp':
      return { axis: 'along', mm: moved(dyMm, step) };
    case 'ArrowDown':
      return { axis: 'along', mm: moved(dyMm, -step) };
    default:
      return null;
  }
}

/** “0.12 mm back and 0.05 mm right”; null when nothing was read. */
export function offsetsText({ dxMm, dyMm }: CheckOffsets, unit: LengthUnit): string | null {
  const along = dyMm === null ? null : offsetText(dyMm, 'along', unit);
  const across = dxMm === null ? null : offsetText(dxMm, 'across', unit);
  return along && across ? `${along} and ${across}` : (along ?? across);
}

/** Pixels a millimetre of the miss: what is allowed and what was read both stay within the room. */
export function missScale({ dxMm, dyMm }: CheckOffsets, toleranceMm: number, roomPx: number): number {
  const shownMm = 1.5 * toleranceMm;
  const far = 1.15 * Math.max(Math.abs(dxMm ?? 0), Math.abs(dyMm ?? 0));
  // Steps of a factor of two, so that a nudge does not change the scale under the eye.
  const halvings = Math.max(0, Math.ceil(Math.log2(far / shownMm)));
  return roomPx / (shownMm * 2 ** halvings);
}
