import { OFFSET_AXES, type OffsetAxis } from '../units';

/*
 * The calibration that a machine does by itself: it prints a page of its own, lines are picked on it by their numbers, and it
 * takes what was picked. What its numbers are worth only its manual says; kept over time they show whether it wanders.
 */

/** What was picked on a machine's own page, in its own numbers. */
export interface OwnPagePicks {
  readonly across: number;
  readonly along: number;
  /** The first and the last number on the page. */
  readonly lowest: number;
  readonly highest: number;
}

/** Axes whose pick is the first or the last on the page: the true one may lie beyond, so it wants another pass. */
export const atPageEnd = (picks: OwnPagePicks): OffsetAxis[] =>
  OFFSET_AXES.filter((axis) => picks[axis] <= picks.lowest || picks[axis] >= picks.highest);
