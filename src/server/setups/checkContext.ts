import { setupWords } from '@/core/setup/inLists';
import type { CheckContext } from '@/core/artwork/checks';
import { frameMap } from '@/core/daily';
import { IDENTITY, type Affine } from '@/core/geometry';
import { clearOnMm, drawnSizeMm, markPlaces, SIDES } from '@/core/marks';

import type { Setup } from './setup';

/** What a pair of print and cut for a setup is checked against, and where its cut files lie on the sheet. */
export interface SetupCheck {
  readonly id: string;
  readonly name: string;
  readonly context: CheckContext;
  /** Cut file, mm → sheet. */
  readonly map: Affine;
}

/** The pieces that a finding names have to be this large and this far apart, mm; common practice, no source. */
const SMALLEST_MM = 3;
const NEAREST_MM = 1;

/** Pages, areas and marks of a setup as a pair has to keep to them. What it needs hidden is what 95 of 100 cuts stay within. */
export function setupCheck(setup: Setup): SetupCheck {
  const { sheetWidthMm, sheetHeightMm, marks, workArea, driverPage, fileFrame, standing } = setup;
  const edge = marks?.printerEdgeMm ?? 0;
  const media = { widthMm: sheetWidthMm, heightMm: sheetHeightMm };
  return {
    id: setup.id,
    name: setupWords(setup),
    map: (fileFrame && frameMap(fileFrame, { sheetWidthMm, sheetHeightMm, marks })) ?? IDENTITY,
    context: {
      media,
      printable: { x0: edge, y0: edge, x1: sheetWidthMm - edge, y1: sheetHeightMm - edge },
      cuttable: workArea,
      // Where another program lays the marks its zones are free all the same.
      marks: marks
        ? markPlaces(marks, setup).map((place) => ({
            ...{ x: place.centre.x, y: place.centre.y, sizeMm: drawnSizeMm(marks, place) },
            clearMm: Math.max(...SIDES.map((side) => clearOnMm(marks, side))),
          }))
        : [],
      driverPage: driverPage && { widthMm: driverPage.widthMm, heightMm: driverPage.heightMm },
      cutterPage: null,
      neededMm: standing.r95Mm,
      ...{ bleedMm: null, borderMm: null },
      ...{ smallestMm: SMALLEST_MM, nearestMm: NEAREST_MM },
    },
  };
}
