import type { Drawn, DrawnPath } from '../drawing';
import type { Point, Rect } from '../geometry';
import { grown, without } from '../layout/sheet/freeSpace';
import { WITNESS_COLOUR, WITNESS_LAYER } from '../layout/witnessStrip';
import {
  loneStation,
  loneStationReach,
  PROOF_VERSION,
  stationCuts,
  stationPrint,
  type ProofSheet,
  type Station,
} from '../proof';

import type { JobGeometry } from './job';
import type { JobSheet } from './job';

/*
 * A witness: one station of the proof sheet in the waste of a job, printed and cut with it, so that every sheet that is cut
 * can be read like any comb. It takes no room from pieces: where there is none left, there is none.
 */

const STEP_MM = 0.1;
const UNIT = 'mm';
/** It keeps this far from everything. */
const CLEAR_MM = 1;

/** Where a witness stands on a sheet that holds this already, its middle; null where nothing is left for it. */
export function witnessPlace(area: Rect, taken: readonly Rect[]): Point | null {
  const reach = loneStationReach(STEP_MM);
  const [width, height] = [reach.left + reach.right, reach.near + reach.far];
  const free = taken.reduce((rest, r) => without(rest, grown(r, CLEAR_MM)), [area]);
  const fits = free.filter((f) => f.x1 - f.x0 >= width && f.y1 - f.y0 >= height);
  // Far from the first edge and to the right: what there is to read lies at the end of the way that was cut.
  const place = fits.toSorted((a, b) => b.y1 - a.y1 || b.x1 - a.x1)[0];
  return place ? { x: place.x1 - reach.right, y: place.y1 - reach.far } : null;
}

/** The witness of a sheet, or null where it has none. */
export function witnessStation({ witness }: Pick<JobGeometry, 'witness'>, index: number): Station | null {
  const centre = witness?.[index];
  return centre ? loneStation(centre, { stepMm: STEP_MM, unit: UNIT, seed: index + 1 }) : null;
}

/** What is printed of it. */
export const witnessPrint = (station: Station): Drawn[] => stationPrint(station, UNIT);

/** What is cut of it. */
export const witnessPaths = (station: Station, pen: number): DrawnPath[] =>
  stationCuts(station).map((path) => ({ ...path, layer: WITNESS_LAYER, colour: WITNESS_COLOUR, pen }));

export const witnessLayer = { name: WITNESS_LAYER, colour: WITNESS_COLOUR } as const;

/** The witness as a proof sheet of one station, so that it is read like any other. */
export function witnessSheet(sheet: JobSheet, station: Station, printedOn: string, seed: number): ProofSheet {
  const { sheetWidthMm, sheetHeightMm, area, marks } = sheet;
  return {
    version: PROOF_VERSION,
    spec: {
      ...{ sheetWidthMm, sheetHeightMm, workArea: area, marks },
      ...{ columns: 1, rows: 1, secondSet: false, unit: UNIT, stepMm: STEP_MM, seed },
    },
    layoutArea: area,
    stations: [station],
    printedOn,
  };
}
