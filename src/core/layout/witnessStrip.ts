import { onPage, type DrawnPath, type PageDrawing } from '../drawing';
import type { MarkKit } from '../marks';
import { accept, refuse, type Outcome } from '../outcome';
import { loneStation, loneStationReach, stationCuts, stationPrint, type Station } from '../proof';

import type { Imposition } from './impose';
import type { Section, SectionRoom } from './sections';

/*
 * A witness strip beside the rows of a run: in the waste across, a station of the proof sheet at the first and at the last row
 * of every section, so that a run's checks are read like any comb. Frame of a section: x from the printable width's left, y
 * from its leading mark, mm.
 */

/** The layer of a witness's lines, told apart from what is wanted. */
export const WITNESS_LAYER = 'witness';
export const WITNESS_COLOUR = '#7a2f6f';

const STEP_MM = 0.1;
const UNIT = 'mm';
const REACH = loneStationReach(STEP_MM);
/** It keeps this far from the rows and from the edge of the printable width. */
const CLEAR_MM = 2;
const WIDTH_MM = REACH.left + REACH.right + 2 * CLEAR_MM;

export type StripRefusal =
  /** Beside the rows so much is left, of what it needs. */
  | { readonly code: 'too-narrow'; readonly leftMm: number; readonly neededMm: number }
  | { readonly code: 'marks-there' };

/** Where across the strip stands: the middle of its stations, mm. */
export function stripXMm(
  { columnsAtMm, itemWidthMm }: Imposition,
  printableWidthMm: number,
  marks: MarkKit | null,
): Outcome<number, StripRefusal> {
  // Marks along the sides stand where it would.
  if (marks?.everyMm != null) return refuse({ code: 'marks-there' });
  const [first, last] = [Math.min(...columnsAtMm), Math.max(...columnsAtMm) + itemWidthMm];
  const [left, right] = [first, printableWidthMm - last];
  if (Math.max(left, right) < WIDTH_MM)
    return refuse({ code: 'too-narrow', leftMm: Math.max(left, right), neededMm: WIDTH_MM });
  return accept(right >= left ? last + CLEAR_MM + REACH.left : first - CLEAR_MM - REACH.right);
}

export const STRIP_PLACES = ['first row', 'last row'] as const;
export type StripPlace = (typeof STRIP_PLACES)[number];
export type StripStation = Station & { readonly place: StripPlace };

/** The stations of a section: at its first row and at its last, clear of the room for marks; one where there is room for one, none for none. */
export function stripStations(
  { itemHeightMm }: Pick<Imposition, 'itemHeightMm'>,
  section: Section,
  { markRoomMm }: Pick<SectionRoom, 'markRoomMm'>,
  xMm: number,
): StripStation[] {
  const length = section.endMm - section.startMm;
  const [least, most] = [markRoomMm + REACH.near, length - markRoomMm - REACH.far];
  if (most < least) return [];
  const within = (y: number): number => Math.min(most, Math.max(least, y));
  const first = within(markRoomMm + itemHeightMm / 2);
  const last = within(length - markRoomMm - itemHeightMm / 2);
  const one = last - first < REACH.near + REACH.far + CLEAR_MM;
  return (one ? [first] : [first, last]).map((y, i) => ({
    ...loneStation({ x: xMm, y }, { stepMm: STEP_MM, unit: UNIT, seed: 2 * section.index + i }),
    id: `${section.index}${i === 0 ? 'F' : 'L'}`,
    place: STRIP_PLACES[i]!,
  }));
}

/** What is printed of a section's witnesses, on a page of its printable width and its length. */
export const stripPrint = (
  stations: readonly StripStation[],
  { title, ...page }: { readonly widthMm: number; readonly heightMm: number; readonly title: string },
): PageDrawing =>
  onPage(
    page,
    title,
    stations.flatMap((s) => stationPrint(s, UNIT)),
  );

/** What is cut of them. */
export const stripPaths = (stations: readonly Station[]): DrawnPath[] =>
  stations.flatMap(stationCuts).map((path) => ({ ...path, layer: WITNESS_LAYER, colour: WITNESS_COLOUR }));

/** What is wrong and what would be right; lengths in mm. */
export function stripRefusalText(refusal: StripRefusal): string {
  switch (refusal.code) {
    case 'too-narrow':
      return `A witness strip needs ${refusal.neededMm.toFixed(0)} mm beside the rows; ${Math.max(0, refusal.leftMm).toFixed(0)} mm are left. One column less, or a wider medium, makes room for it.`;
    case 'marks-there':
      return 'This rig’s marks stand along the sides, where a witness strip would be.';
    default:
      return refusal satisfies never;
  }
}
