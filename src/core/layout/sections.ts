import { rowsLengthMm, type Imposition } from './impose';

/** What lies round a section besides its rows, mm along the feed. */
export interface SectionRoom {
  /** From the leading mark to the first row, and from the last row to the far marks. */
  readonly markRoomMm: number;
  /** Between the far end of a section and the near end of the next. */
  readonly betweenMm: number;
}

/** One piece that is printed and cut by itself. */
export interface Section {
  /** From 1. */
  readonly index: number;
  readonly firstRow: number;
  readonly rows: number;
  readonly copies: number;
  /** Of its rows, without the room for marks. */
  readonly heightMm: number;
  /** Leading mark, or first row without marks, from the start of the first section. */
  readonly startMm: number;
  readonly endMm: number;
}

/** Sections of so many rows; the last takes what is left. */
export function sectionsOf(imposition: Imposition, rowsPerSection: number, room: SectionRoom): Section[] {
  const { rows, columns, copies, itemHeightMm, gapMm } = imposition;
  let startMm = 0;
  return Array.from({ length: Math.ceil(rows / rowsPerSection) }, (_, i) => {
    const firstRow = i * rowsPerSection;
    const own = Math.min(rowsPerSection, rows - firstRow);
    const heightMm = rowsLengthMm(own, itemHeightMm, gapMm);
    const endMm = startMm + heightMm + 2 * room.markRoomMm;
    const section = {
      index: i + 1,
      firstRow: firstRow + 1,
      rows: own,
      copies: Math.min(own * columns, copies - firstRow * columns),
      heightMm,
      startMm,
      endMm,
    };
    startMm = endMm + room.betweenMm;
    return section;
  });
}
