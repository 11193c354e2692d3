import { lengthText, plainLength, type LengthUnit } from '../units';

/*
 * One judge of what is plausible, for every figure that a person types. It never refuses: it asks once, says why, and where a
 * slip of the point or of the unit explains the figure, what may have been meant. What it goes by: what is allowed here, what
 * the setup's own record has, and where there is none what a rig does that nobody has touched.
 */

/** A rig as it comes is off by up to about so much, mm (common practice, no source). */
const UNTOUCHED_MM = 5;
/** Beyond so many times what is allowed, and what the record has, a figure is asked about. */
const TIMES_ALLOWED = 5;
const TIMES_RECORD = 3;
/** A whole set is many readings: they are hardly all slips, but they may be those of another sheet. */
const TIMES_SET = 2;
/** A known length that is measured further off than this share is no measurement of it. */
const LENGTH_SHARE = 0.03;
/** What people allow: from what an eye at a loupe tells apart to a border that nobody minds, mm (common practice, no source). */
const ALLOWED_MM = [0.05, 5] as const;
/** A printer's feed lies within this of 100 % (common practice, no source). */
const FEED_PERCENT = 10;

/** Slips of a point, and inches taken for millimetres or the other way round. */
const SLIPS = [10, 0.1, 100, 0.01, 25.4, 1 / 25.4] as const;
/** So many figures are proposed. */
const MOST_MEANT = 2;

/** What a slip may have made of a figure that is in order. */
const slipsOf = (value: number, inOrder: (meant: number) => boolean): readonly number[] =>
  SLIPS.map((f) => value * f)
    .filter(inOrder)
    .slice(0, MOST_MEANT);

/** What a figure is judged by; what is not known is left out. */
export interface Usual {
  readonly allowedMm?: number | undefined;
  /** The largest that this setup's record has, mm. */
  readonly everMm?: number | null | undefined;
  /** What is usual for a known length, mm. */
  readonly nominalMm?: number | undefined;
}

export type FigureKind =
  /** Where a cut landed beside its print, mm. */
  | 'offset'
  /** How far a whole set lies off in the middle, mm. */
  | 'set'
  /** A length that is known, measured, mm. */
  | 'known length'
  /** What a cut may be off, mm. */
  | 'allowed miss'
  /** A printer's feed, %. */
  | 'feed';

export type Judgement =
  | { readonly say: 'fine' }
  /** Why it is asked, as a sentence, and figures that may have been meant, the likeliest first. */
  | { readonly say: 'ask'; readonly why: string; readonly meant: readonly number[] };

const FINE: Judgement = { say: 'fine' };

/** Whether a figure may well be what it is meant to be. Lengths in mm; words in the user's unit. */
export function plausible(kind: FigureKind, value: number, usual: Usual, unit: LengthUnit): Judgement {
  if (!Number.isFinite(value)) return FINE;
  switch (kind) {
    case 'offset':
      return offset(value, usual, unit);
    case 'set':
      return offset(value, usual, unit, TIMES_SET);
    case 'known length':
      return knownLength(value, usual.nominalMm, unit);
    case 'allowed miss':
      return allowedMiss(value, unit);
    case 'feed':
      return feed(value);
    default:
      return kind satisfies never;
  }
}

function offset(value: number, { allowedMm, everMm }: Usual, unit: LengthUnit, times?: number): Judgement {
  const size = Math.abs(value);
  const byRecord = everMm == null ? UNTOUCHED_MM : (times ?? TIMES_RECORD) * everMm;
  const limit = Math.max(byRecord, (times ?? TIMES_ALLOWED) * (allowedMm ?? 0));
  if (size <= limit) return FINE;
  const parts = [
    allowedMm ? `${timesWords(size / allowedMm)} what is allowed here` : '',
    everMm == null
      ? 'more than a rig that nobody has touched is usually off'
      : everMm > 0
        ? `${timesWords(size / everMm)} what is on record here`
        : '',
  ].filter((words) => words !== '');
  return {
    say: 'ask',
    why: `${lengthText(size, unit)} is ${parts.join(' and ')}.`,
    meant: slipsOf(value, (v) => Math.abs(v) <= limit),
  };
}

function knownLength(value: number, nominalMm: number | undefined, unit: LengthUnit): Judgement {
  if (nominalMm === undefined || !(nominalMm > 0)) return FINE;
  const near = (v: number): boolean => Math.abs(v / nominalMm - 1) <= LENGTH_SHARE;
  if (near(value)) return FINE;
  return {
    say: 'ask',
    why: `${lengthText(value, unit)} where ${lengthText(nominalMm, unit)} should be.`,
    meant: slipsOf(value, near),
  };
}

function allowedMiss(value: number, unit: LengthUnit): Judgement {
  const [least, most] = ALLOWED_MM;
  const within = (v: number): boolean => v >= least && v <= most;
  if (within(value)) return FINE;
  const why =
    value > most
      ? `A cut that may be ${plainLength(value, unit)} off is off for everybody to see.`
      : `Nobody sees whether a cut is ${plainLength(value, unit)} off.`;
  return { say: 'ask', why, meant: slipsOf(value, within) };
}

function feed(percent: number): Judgement {
  const within = (v: number): boolean => Math.abs(v - 100) <= FEED_PERCENT;
  if (within(percent)) return FINE;
  const meant = [percent + 100, percent * 10, percent / 10].filter(within).slice(0, MOST_MEANT);
  return { say: 'ask', why: `Feeds lie near 100 %; this is ${percent} %.`, meant };
}

/** “24 times”, “2.5 times”. */
const timesWords = (ratio: number): string =>
  `${ratio < 10 ? Number(ratio.toFixed(1)) : Math.round(ratio)} times`;
