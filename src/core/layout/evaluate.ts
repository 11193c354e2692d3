import { WHOLE_STEP_GUARD } from '../tolerance';
import type { MarkWay, Outline, Predictor } from '../drift';

import type { Imposition } from './impose';
import type { Section, SectionRoom } from './sections';

/** A way to register pieces, as planning sees it. */
export interface EvaluatedWay {
  readonly way: MarkWay;
  /** Further marks at most this far apart; each stretch between them counts by itself. */
  readonly everyMm: number | null;
}

export interface SectionForecast {
  readonly worstR95Mm: number;
  readonly spoiled: number;
}

/** What the pieces carry and how an item is judged. */
export interface Judged {
  readonly imposition: Imposition;
  readonly room: SectionRoom;
  readonly toleranceMm: number;
  readonly outline: Outline;
}

/** Rows of a section that are worked out; those between them are interpolated. */
const MOST_ROWS_EACH = 16;
/** Sections that are worked out: they differ only by the bow. */
const MOST_SECTIONS_EACH = 5;

/** Expected misses section by section. */
export function forecast(
  predictor: Predictor,
  way: EvaluatedWay,
  sections: readonly Section[],
  judged: Judged,
): SectionForecast[] {
  const spoiled = bySection(sections, judged, (s) => spoiledIn(predictor, way, s, judged));
  const worst = bySection(sections, judged, (s) => worstR95(predictor, way, s, judged));
  return sections.map((_, i) => ({ spoiled: spoiled[i]!, worstR95Mm: worst[i]! }));
}

/** Expected number of spoiled items over all sections. */
export const expectedSpoiled = (
  predictor: Predictor,
  way: EvaluatedWay,
  sections: readonly Section[],
  judged: Judged,
): number =>
  bySection(sections, judged, (s) => spoiledIn(predictor, way, s, judged)).reduce((a, b) => a + b, 0);

/** A figure of each section; of many alike some are worked out and the others interpolated. */
function bySection(
  sections: readonly Section[],
  { imposition }: Judged,
  of: (section: Section) => number,
): number[] {
  const rows = sections[0]!.rows;
  const alike = sections.filter((s) => s.rows === rows && s.copies === rows * imposition.columns);
  const known = sampled(alike.length, MOST_SECTIONS_EACH).map((i) => ({ at: i, value: of(alike[i]!) }));
  return sections.map((section, i) => (i < alike.length ? between(known, i) : of(section)));
}

function spoiledIn(predictor: Predictor, way: EvaluatedWay, section: Section, judged: Judged): number {
  const { imposition, toleranceMm, outline } = judged;
  const rows = sampled(section.rows, MOST_ROWS_EACH).map((row) => ({
    at: row,
    value: rowEnds(way, section, judged, row).reduce(
      (worst, place) => Math.max(worst, predictor.spoiledChance(place, toleranceMm, outline)),
      0,
    ),
  }));
  let spoiled = 0;
  for (let row = 0; row < section.rows; row += 1)
    spoiled += Math.min(imposition.columns, section.copies - row * imposition.columns) * between(rows, row);
  return spoiled;
}

/** The farthest row is the worst one with marks at the start; between two marks it is one in the middle. */
function worstR95(predictor: Predictor, way: EvaluatedWay, section: Section, judged: Judged): number {
  const rows = way.way === 'start' ? [section.rows - 1] : sampled(section.rows, 3);
  return Math.max(
    ...rows.flatMap((row) => rowEnds(way, section, judged, row).map((place) => predictor.r95Mm(place))),
  );
}

/** Near and far end of a row as places on its piece: the far end alone when only the start is registered. */
function rowEnds(way: EvaluatedWay, section: Section, { imposition, room }: Judged, row: number) {
  const nearMm = room.markRoomMm + row * (imposition.itemHeightMm + imposition.gapMm);
  const farMm = nearMm + imposition.itemHeightMm;
  return (way.way === 'start' ? [farMm] : [nearMm, farMm]).map((mm) => placeOn(way, section, mm));
}

/** A distance from a section’s leading mark as a place on its piece; between further marks on its own stretch. */
export function placeOn(way: EvaluatedWay, section: Section, fromMarkMm: number) {
  const lengthMm = section.endMm - section.startMm;
  const parts = way.everyMm === null ? 1 : Math.max(1, Math.ceil(lengthMm / way.everyMm - WHOLE_STEP_GUARD));
  const stretchMm = lengthMm / parts;
  const part = Math.min(parts - 1, Math.floor(fromMarkMm / stretchMm));
  return {
    tM: (fromMarkMm - part * stretchMm) / 1000,
    y0M: (section.startMm + part * stretchMm) / 1000,
    lengthM: stretchMm / 1000,
  };
}

/** Up to `most` indices spread from the first to the last. */
function sampled(count: number, most: number): number[] {
  if (count <= most) return Array.from({ length: count }, (_, i) => i);
  return Array.from({ length: most }, (_, i) => Math.round((i * (count - 1)) / (most - 1)));
}

/** Linear interpolation between sampled indices. */
function between(known: readonly { readonly at: number; readonly value: number }[], at: number): number {
  const after = known.findIndex((k) => k.at >= at);
  const right = known[after]!;
  if (right.at === at || after === 0) return right.value;
  const left = known[after - 1]!;
  const share = (at - left.at) / (right.at - left.at);
  return (1 - share) * left.value + share * right.value;
}
