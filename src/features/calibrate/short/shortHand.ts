import { COARSE_GRADUATION_MM, COARSE_REACH_MM } from '@/core/tolerance';
import { coarseOffset, nearestLengths, type LinePick } from '@/core/comb';
import type { Station } from '@/core/proof';
import { OFFSET_AXES, type LengthUnit, type OffsetAxis } from '@/core/units';

import { pickWithin, stepsOfLabel, wrap } from '../read/readingHand';

/* Both combs of a short sheet under one hand: no screen, no server. */

interface AxisHand {
  /** Comb steps, halves included, within one comb length. */
  readonly steps: number;
  readonly coarseMm: number;
  /** Where the coarse scale was read; null while the ring is unbroken. */
  readonly coarseRead: number | null;
  /** It was moved, typed or confirmed: what it shows is what was seen. */
  readonly stands: boolean;
}

export interface ShortHand {
  readonly across: AxisHand;
  readonly along: AxisHand;
  /** The coarse scales are on the pictures. */
  readonly coarse: boolean;
  /** The label that is being typed, and for which comb. */
  readonly typed: string;
  readonly typesFor: OffsetAxis;
  /** Why what was typed leads nowhere. */
  readonly notThere: string;
}

const MIDDLE: AxisHand = { steps: 0, coarseMm: 0, coarseRead: null, stands: false };

export const OPEN_HAND: ShortHand = {
  ...{ across: MIDDLE, along: MIDDLE, coarse: false },
  ...{ typed: '', typesFor: 'across', notThere: '' },
};

/** A hand as it read before. */
export const handOf = (
  picks: Readonly<Record<OffsetAxis, { readonly pick: LinePick; readonly coarseMm: number | null }>>,
): ShortHand => {
  const of = ({ pick, coarseMm }: (typeof picks)[OffsetAxis]): AxisHand => ({
    steps: pick.line + (pick.between ? 0.5 : 0),
    coarseMm: coarseMm ?? 0,
    coarseRead: coarseMm,
    stands: true,
  });
  return { ...OPEN_HAND, across: of(picks.across), along: of(picks.along) };
};

/** Which comb an arrow moves. */
export const axisOf = (key: string): OffsetAxis =>
  key === 'ArrowLeft' || key === 'ArrowRight' ? 'across' : 'along';

const MOST_COARSE_MM = COARSE_REACH_MM + 0.5;
/** One press of an arrow: a line of the comb (half a one from between two), or a graduation of the coarse scale. */
export function nudge(hand: ShortHand, station: Station, axis: OffsetAxis, by: 1 | -1): ShortHand {
  const own = hand[axis];
  const moved: AxisHand = hand.coarse
    ? {
        ...own,
        coarseMm: Math.min(
          MOST_COARSE_MM,
          Math.max(-MOST_COARSE_MM, own.coarseMm + by * COARSE_GRADUATION_MM),
        ),
      }
    : {
        ...own,
        steps: wrap(station[axis], own.steps + (Number.isInteger(own.steps) ? by : by / 2)),
        stands: true,
      };
  return { ...hand, [axis]: moved, typesFor: axis, typed: '', notThere: '' };
}

/** A coarse scale read otherwise than it was asked about. */
export const coarseAt = (hand: ShortHand, axis: OffsetAxis, coarseMm: number): ShortHand => ({
  ...hand,
  [axis]: { ...hand[axis], coarseMm },
});

/** Neither pair runs straight through, the place between them does; and back. */
export function between(hand: ShortHand, station: Station, axis: OffsetAxis): ShortHand {
  if (hand.coarse) return hand;
  const { steps } = hand[axis];
  const half = wrap(station[axis], Number.isInteger(steps) ? steps + 0.5 : steps - 0.5);
  return { ...hand, [axis]: { ...hand[axis], steps: half, stands: true }, typesFor: axis };
}

/** The ring is broken: the coarse scales come first; and back, with what they were read at. */
export function turnCoarse(hand: ShortHand): ShortHand {
  if (!hand.coarse) return { ...hand, coarse: true, typed: '', notThere: '' };
  const read = (own: AxisHand): AxisHand => ({ ...own, coarseRead: own.coarseMm });
  return { ...hand, across: read(hand.across), along: read(hand.along), coarse: false };
}

/** The ring is unbroken after all: what the coarse scales were read at is forgotten. */
export const ringUnbroken = (hand: ShortHand): ShortHand => ({
  ...hand,
  across: { ...hand.across, coarseMm: 0, coarseRead: null },
  along: { ...hand.along, coarseMm: 0, coarseRead: null },
  coarse: false,
});

const MOST_TYPED = 8;
export function typeKey(hand: ShortHand, key: string): ShortHand {
  if (key === 'Escape') return { ...hand, typed: '' };
  if (key === 'Backspace') return { ...hand, typed: hand.typed.slice(0, -1) };
  return hand.typed.length < MOST_TYPED ? { ...hand, typed: hand.typed + key, notThere: '' } : hand;
}

/** Puts a comb where the typed label stands; the other one is next. */
export function takeTyped(hand: ShortHand, station: Station, unit: LengthUnit): ShortHand {
  const axis = hand.typesFor;
  const found = stepsOfLabel(station[axis], hand.typed, unit);
  if ('message' in found) return { ...hand, typed: '', notThere: found.message };
  const next = OFFSET_AXES.find((a) => a !== axis)!;
  return { ...hand, [axis]: { ...hand[axis], steps: found.steps, stands: true }, typed: '', typesFor: next };
}

/** Both combs were seen. */
export const bothStand = ({ across, along, coarse }: ShortHand): boolean =>
  across.stands && along.stands && !coarse;

/** A comb that was not moved runs straight through at its middle: that is said once, with a press. */
export const letStand = (hand: ShortHand): ShortHand => ({
  ...hand,
  across: { ...hand.across, stands: true },
  along: { ...hand.along, stands: true },
});

/** What the hand reads. */
export function picksOf(hand: ShortHand, station: Station) {
  const of = (axis: OffsetAxis): { readonly pick: LinePick; readonly coarseMm: number | null } => {
    const { steps, coarseRead } = hand[axis];
    const { line, between } = pickWithin(steps);
    const lengths =
      coarseRead === null ? 0 : nearestLengths(station[axis], line, between, coarseOffset(coarseRead));
    return { pick: { line, between, lengths }, coarseMm: coarseRead };
  };
  return { across: of('across'), along: of('along') };
}

export type ShortPicks = ReturnType<typeof picksOf>;

/** The middle pairs run straight through: a yes, twice. */
export const BOTH_STRAIGHT: ShortPicks = {
  across: { pick: { line: 0, between: false, lengths: 0 }, coarseMm: null },
  along: { pick: { line: 0, between: false, lengths: 0 }, coarseMm: null },
};
