import { OFFSET_AXES, type OffsetAxis } from '../units';

/*
 * The calibration that a machine does by itself: it prints a page of its own, lines are picked on it by what stands beside
 * them (numbers, letters, or a letter and a number), and it takes what was picked. What that is worth only its manual says;
 * kept over time it shows whether the machine wanders.
 */

/** The lines of one axis of a page, as they are labelled: “−5” to “5”, “A” to “K”, “A1” to “C9”. */
export interface PageRange {
  readonly from: string;
  readonly to: string;
  /** The line that changes nothing; empty where it lies halfway. */
  readonly middle: string;
}

/** A line that was picked. */
export interface PagePick extends PageRange {
  readonly pick: string;
}

export type OwnPagePicks = Readonly<Record<OffsetAxis, PagePick>>;

/** A label read: its letter (A is 0), its number, or both. */
interface Label {
  readonly letter: number | null;
  readonly number: number | null;
}

const LABEL = /^([A-Z])?(?:([+-]?)(\d{1,5}(?:\.\d{1,4})?))?$/;

function labelOf(text: string): Label | null {
  const plain = text.replace(/\s/g, '').toUpperCase().replace(/[−–]/g, '-').replace(',', '.');
  const found = plain === '' ? null : LABEL.exec(plain);
  if (!found) return null;
  const [, letter, sign, digits] = found;
  // A sign belongs to a figure that stands alone: “A-3” is the third of A.
  const number = digits === undefined ? null : Number(digits) * (sign === '-' && !letter ? -1 : 1);
  return { letter: letter ? letter.charCodeAt(0) - 'A'.charCodeAt(0) : null, number };
}

const shape = ({ letter, number }: Label): string => `${letter !== null}${number !== null}`;

/**
 * Where a label lies on a page's axis, in lines from the first; numbers count as what they say. Null for what is no label,
 * or is one of another kind than the range's ends. Letters with numbers run A1, A2 … A9, B1.
 */
export function placeOnPage({ from, to }: Pick<PageRange, 'from' | 'to'>, text: string): number | null {
  const [first, last, label] = [labelOf(from), labelOf(to), labelOf(text)];
  if (!first || !last || !label || shape(first) !== shape(last) || shape(label) !== shape(first)) return null;
  const each = first.letter !== null && first.number !== null ? last.number! - first.number + 1 : 1;
  const place = ({ letter, number }: Label): number => (letter ?? 0) * each + (number ?? 0);
  if (first.letter !== null && label.number !== null)
    if (label.number < first.number! || label.number > last.number!) return null;
  return place(label) - place(first);
}

/** The place of the line that changes nothing. */
export const middleOfPage = (range: PageRange): number =>
  (range.middle.trim() === '' ? null : placeOnPage(range, range.middle)) ??
  (placeOnPage(range, range.to) ?? 0) / 2;

/** Whether a range can be one: two labels of one kind, the first before the last. */
export const isPageRange = (range: Pick<PageRange, 'from' | 'to'>): boolean =>
  (placeOnPage(range, range.to) ?? 0) > 0;

/** Axes whose pick is the first or the last on the page: the true one may lie beyond, so it wants another pass. */
export const atPageEnd = (picks: OwnPagePicks): OffsetAxis[] =>
  OFFSET_AXES.filter((axis) => {
    const place = placeOnPage(picks[axis], picks[axis].pick) ?? 0;
    return place <= 0 || place >= placeOnPage(picks[axis], picks[axis].to)!;
  });
