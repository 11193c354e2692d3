import { COARSE_REACH_MM } from '../tolerance';
import type { Mark, Scene } from '../drawing';
import type { Point } from '../geometry';
import { cutLineMm, extraLengths, type LineComb } from '../comb';

import { STATION } from './layout';
import { combPoint } from './printScene';
import { gapShapeCuts } from './gapShape';
import { ringCuts } from './rings';
import type { ProofSheet, Station, StationSet } from './types';

const HAIRLINE_MM = 0.1;

/** The cut layer of one set of stations: paths only, same page as the print layer. */
export function cutScene(sheet: ProofSheet, number: string, set: StationSet): Scene {
  return {
    widthMm: sheet.spec.sheetWidthMm,
    heightMm: sheet.spec.sheetHeightMm,
    title: `Red Plumb proof sheet ${number}, cut lines ${set === 1 ? 'A' : 'B'}`,
    marks: sheet.stations.filter((s) => s.set === set).flatMap(stationCuts),
  };
}

/** The cut lines of one station: combs, rings, coarse cross and window. */
export function stationCuts(station: Station): Mark[] {
  const { centre, scaleCentre } = station;
  const arm = STATION.crossCutMm;
  return [
    ...combCuts(station.across, station.fromHigh),
    ...combCuts(station.along, station.fromHigh),
    ...(station.rings ?? []).flatMap(ringCuts),
    ...(station.gapShape ? gapShapeCuts(station.gapShape) : []),
    cut({ x: scaleCentre.x, y: scaleCentre.y - arm }, { x: scaleCentre.x, y: scaleCentre.y + arm }),
    cut({ x: scaleCentre.x + arm, y: scaleCentre.y }, { x: scaleCentre.x - arm, y: scaleCentre.y }),
    { kind: 'ring', centre, radiusMm: STATION.windowRadiusMm, widthMm: HAIRLINE_MM, ink: 'cut' },
  ];
}

/** From one side to the other; every other line runs back, so that the knife travels less between them. */
function combCuts(comb: LineComb, fromHigh = false): Mark[] {
  const last = comb.halfLines + extraLengths(comb.stepMm, comb.halfLines, COARSE_REACH_MM);
  return Array.from({ length: 2 * last + 1 }, (_, j) => {
    const m = cutLineMm(comb, fromHigh ? last - j : j - last);
    const ends = [combPoint(comb, m, STATION.cutFromMm), combPoint(comb, m, STATION.cutToMm)] as const;
    return j % 2 === 0 ? cut(ends[0], ends[1]) : cut(ends[1], ends[0]);
  });
}

const cut = (from: Point, to: Point): Mark => ({
  kind: 'line',
  from,
  to,
  widthMm: HAIRLINE_MM,
  ink: 'cut',
});
