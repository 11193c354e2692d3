import { rectHeight, rectWidth } from '../geometry';
import { without } from '../layout/sheet/freeSpace';
import { clearZone, markPlaces } from '../marks';

import { labelPlaces } from './pair';
import { type JobSheet } from './job';
import type { Room } from './room';

/** The rectangles that marks and a job's label leave free, none of which goes into another. */
export function freeRooms(sheet: JobSheet): Room[] {
  const marks = sheet.marks ? markPlaces(sheet.marks, sheet).map((m) => clearZone(sheet.marks!, m)) : [];
  const rooms = labelPlaces(sheet.area, marks)
    .flatMap((label) => [...marks, label].reduce((free, zone) => without(free, zone), [sheet.area]))
    .map((r): Room => ({ widthMm: rectWidth(r), heightMm: rectHeight(r) }))
    .toSorted((a, b) => b.widthMm - a.widthMm || b.heightMm - a.heightMm);
  // Narrower ones count only as far as they are taller.
  let tallest = 0;
  return rooms.filter(({ heightMm }) => {
    const more = heightMm > tallest;
    tallest = Math.max(tallest, heightMm);
    return more;
  });
}
