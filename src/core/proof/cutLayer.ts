import { COARSE_REACH_MM } from '../tolerance';
import { line, onPage, ring, type DrawnPath, type PageDrawing } from '../drawing';
import type { Point } from '../geometry';
import { cutLineMm, extraLengths, type LineComb } from '../comb';

import { STATION } from './layout';
import { combPoint } from './printLayer';
import { gapShapeCuts } from './gapShape';
import { ringCuts } from './rings';
import type { ProofSheet, Station, StationSet } from './types';

const HAIRLINE_MM = 0.1;

/** The cut layer of one set of stations: paths only, same page as the print layer. */
export function cutLayer(sheet: ProofSheet, number: string, set: StationSet): PageDrawing {
  const { sheetWidthMm: widthMm, sheetHeightMm: heightMm } = sheet.spec;
  return onPage(
    { widthMm, heightMm },
    `Red Plumb proof sheet ${number}, cut lines ${set === 1 ? 'A' : 'B'}`,
    sheet.stations.filter((s) => s.set === set).flatMap(stationCuts),
  );
}

/** The cut lines of one station: combs, rings, coarse cross and window. */
export function stationCuts(station: Station): DrawnPath[] {
  const { centre, scaleCentre } = station;
  const arm = STATION.crossCutMm;
  return [
    ...combCuts(station.across, station.fromHigh),
    ...combCuts(station.along, station.fromHigh),
    ...(station.rings ?? []).flatMap(ringCuts),
    ...(station.gapShape ? gapShapeCuts(station.gapShape) : []),
    cut({ x: scaleCentre.x, y: scaleCentre.y - arm }, { x: scaleCentre.x, y: scaleCentre.y + arm }),
    cut({ x: scaleCentre.x + arm, y: scaleCentre.y }, { x: scaleCentre.x - arm, y: scaleCentre.y }),
    ring(centre, STATION.windowRadiusMm, HAIRLINE_MM, 'cut'),
  ];
}

/** From one side to the other; every other line runs back, so that the knife travels less between them. */
function combCuts(comb: LineComb, fromHigh = false): DrawnPath[] {
  const last = comb.halfLines + extraLengths(comb.stepMm, comb.halfLines, COARSE_REACH_MM);
  return Array.from({ length: 2 * last + 1 }, (_, j) => {
    const m = cutLineMm(comb, fromHigh ? last - j : j - last);
    const ends = [combPoint(comb, m, STATION.cutFromMm), combPoint(comb, m, STATION.cutToMm)] as const;
    return j % 2 === 0 ? cut(ends[0], ends[1]) : cut(ends[1], ends[0]);
  });
}

const cut = (from: Point, to: Point): DrawnPath => line(from, to, HAIRLINE_MM, 'cut');
