import { COARSE_GRADUATION_MM } from '../tolerance';
import {
  codeMarks,
  line as inkLine,
  onPage,
  outline,
  ring,
  words,
  type Drawn,
  type DrawnPath,
  type DrawnWords,
  type PageDrawing,
} from '../drawing';
import type { Point } from '../geometry';
import { drawMarks } from '../marks';
import { lineLabelMm, printedLineMm, type LineComb } from '../comb';
import { fromMm, plainLength, signed, type LengthUnit } from '../units';

import { barLengthsMm } from './bars';
import { STATION, TITLE_STRIP_MM } from './layout';
import { gapShapePrint } from './gapShape';
import { ringPrint } from './rings';
import type { ProofSheet, Station } from './types';

/** Words on the sheet; given, so that the core needs neither clock nor database. */
export interface SheetTitle {
  readonly number: string;
  readonly rig: string;
  readonly media: string;
  readonly date: string;
  /** Address of the sheet's own page, and the modules of its QR code, true = dark, row by row from the top. */
  readonly address: string;
  readonly qr: readonly (readonly boolean[])[];
}

/** How right and further are meant, wherever a sheet is spoken of. */
export const ORIENTATION_WORDS =
  'The bob points to the near edge. Right and further are said with the printed side up and the bob towards you.';

const LINE_MM = 0.14;
const FINE_MM = 0.1;

/** The print layer: everything the printer puts down, sheet frame, mm. */
export function printLayer(sheet: ProofSheet, title: SheetTitle): PageDrawing {
  const { spec } = sheet;
  const page = { widthMm: spec.sheetWidthMm, heightMm: spec.sheetHeightMm };
  return onPage(page, `Red Plumb proof sheet ${title.number}`, [
    ...(spec.marks ? drawMarks(spec.marks, spec) : []),
    ...titleMarks(sheet, title),
    ...checkBars(sheet),
    ...orientationCorner({ x: sheet.layoutArea.x0 + 4, y: sheet.layoutArea.y0 + 2 }),
    ...sheet.stations.flatMap((s) => stationPrint(s, spec.unit)),
    ...(spec.sheetHeightMm > STRIP_FROM_MM ? distanceMarks(sheet, title.number) : []),
  ]);
}

/** Sheets longer than this are strips: cut apart, each piece still says which it is and where it was. */
const STRIP_FROM_MM = 1500;

/** Sheet number and distance from the near edge at each row of stations. */
function distanceMarks({ stations, spec }: ProofSheet, number: string): Drawn[] {
  return [...new Map(stations.map((s) => [s.centre.y, s])).values()].map(({ scaleCentre, centre }) => {
    const distance =
      spec.unit === 'mm' ? `${(centre.y / 1000).toFixed(3)} m` : `${fromMm(centre.y, 'in').toFixed(2)} in`;
    const at = {
      x: scaleCentre.x - STATION.crossArmMm + 9,
      y: scaleCentre.y - STATION.crossCutMm - 1.2,
    };
    return words(at, `${number} at ${distance}`, 2.4);
  });
}

function titleMarks(sheet: ProofSheet, title: SheetTitle): Drawn[] {
  const { unit } = sheet.spec;
  const area = sheet.layoutArea;
  const left = area.x0 + 12;
  const top = area.y0 + TITLE_STRIP_MM - 5;
  const labels = unit === 'mm' ? 'hundredths of a millimetre' : 'thousandths of an inch';
  const second = sheet.spec.secondSet ? ' Cut A first; keep the sheet loaded; B is for the proof.' : '';
  return [
    words({ x: left, y: top }, `${title.number}`, 5, { bold: true }),
    words({ x: left + 17, y: top + 1.6 }, `${title.rig}, ${title.media}`, 2.8),
    words({ x: left + 17, y: top - 1.6 }, `${title.date}. Print at 100 %. Labels: ${labels}.${second}`, 2.1),
    words({ x: left + 17, y: top - 4.6 }, ORIENTATION_WORDS, 1.9),
    ...codeMarks(title.qr, { x: area.x1 - 18, y: area.y0 + 2 }, 18),
  ];
}

/** Bars of known length: “if it is not 100 mm (4 in) the print was scaled”. */
function checkBars(sheet: ProofSheet): Drawn[] {
  const area = sheet.layoutArea;
  const { across, along } = barLengthsMm(sheet);
  const { unit } = sheet.spec;
  const start = { x: area.x0 + 12, y: area.y0 + 7 };
  const rise = { x: area.x0 + 4, y: area.y0 + TITLE_STRIP_MM + 2 };
  const note = (length: number): string => `measure: ${plainLength(length, unit)}, or the print was scaled`;
  return [
    line(start, { x: start.x + across, y: start.y }, 0.2),
    line({ x: start.x, y: start.y - 1.5 }, { x: start.x, y: start.y + 1.5 }, LINE_MM),
    line({ x: start.x + across, y: start.y - 1.5 }, { x: start.x + across, y: start.y + 1.5 }, LINE_MM),
    words({ x: start.x + across / 2, y: start.y - 3.2 }, note(across), 2.2, { anchor: 'middle' }),
    line(rise, { x: rise.x, y: rise.y + along }, 0.2),
    line({ x: rise.x - 1.5, y: rise.y }, { x: rise.x + 1.5, y: rise.y }, LINE_MM),
    line({ x: rise.x - 1.5, y: rise.y + along }, { x: rise.x + 1.5, y: rise.y + along }, LINE_MM),
    words({ x: rise.x - 1.2, y: rise.y + along / 2 }, note(along), 2.2, { anchor: 'middle', turnDeg: 90 }),
  ];
}

/** A small plumb bob, point towards the near edge: tells which way the sheet lies. */
function orientationCorner(at: Point): Drawn[] {
  const bob = [
    [0, 0],
    [1.9, 5],
    [2.2, 7.5],
    [0.8, 9],
    [0.8, 10.2],
    [-0.8, 10.2],
    [-0.8, 9],
    [-2.2, 7.5],
    [-1.9, 5],
  ] as const;
  const points = bob.map(([x, y]) => ({ x: at.x + x, y: at.y + y }));
  return [
    outline(points, 0.3, 'text'),
    line({ x: at.x, y: at.y + 10.2 }, { x: at.x, y: at.y + 16 }, 0.3, 'text'),
  ];
}

/** What is printed of one station. */
export function stationPrint(station: Station, unit: LengthUnit): Drawn[] {
  const { centre, scaleCentre } = station;
  return [
    ...(station.bandMm
      ? [ring(centre, STATION.windowRadiusMm, station.bandMm, 'print')]
      : [
          ring(centre, discMiddle(), discWidth(), 'print'),
          ring(centre, STATION.windowRadiusMm, FINE_MM, 'print'),
        ]),
    ...combMarks(station.across, unit),
    ...combMarks(station.along, unit),
    ...crossMarks(scaleCentre),
    ...(station.gapShape ? gapShapePrint(station.gapShape) : []),
    ...(station.rings ?? []).flatMap((row) => ringPrint(row, (mm) => labelText(mm, unit))),
    words(
      { x: scaleCentre.x - STATION.crossArmMm, y: scaleCentre.y - STATION.crossCutMm - 1.2 },
      station.id,
      3,
      {
        bold: true,
      },
    ),
  ];
}

/** The disc's ink is a ring outside the window that is cut and weeded: what is left must be even. */
const discMiddle = (): number => (STATION.discRadiusMm + STATION.windowRadiusMm) / 2;
const discWidth = (): number => STATION.discRadiusMm - STATION.windowRadiusMm;

/** Place on a comb: `m` along the measured axis, `s` outward from the disc. */
export function combPoint(comb: LineComb, m: number, s: number): Point {
  return comb.axis === 'across'
    ? { x: comb.centre.x + m, y: comb.centre.y + s }
    : { x: comb.centre.x + s, y: comb.centre.y + m };
}

function combMarks(comb: LineComb, unit: LengthUnit): Drawn[] {
  const scale = comb.stepMm / 0.1;
  const marks: Drawn[] = [];
  for (let k = -comb.halfLines; k <= comb.halfLines; k += 1) {
    const m = printedLineMm(comb, k);
    const labelled = k % 2 === 0;
    const from = STATION.lineFromMm + (labelled ? 0 : 0.8);
    marks.push(
      line(
        combPoint(comb, m, from),
        combPoint(comb, m, STATION.lineToMm),
        Math.min(LINE_MM, LINE_MM * scale),
      ),
    );
    if (labelled) marks.push(combLabel(comb, k, unit, scale));
  }
  return marks;
}

/** Labels stand between disc and lines; those of the across comb are turned to find room at this pitch. */
function combLabel(comb: LineComb, k: number, unit: LengthUnit, scale: number): DrawnWords {
  const sizeMm = Math.min(2.4, 1.85 * Math.max(0.5, scale));
  const label = labelText(lineLabelMm(comb, k), unit);
  const middle = printedLineMm(comb, k) + (comb.axis === 'across' ? 1 : -1) * sizeMm * 0.36;
  const turnDeg = comb.axis === 'across' ? 90 : 0;
  const at = combPoint(comb, middle, STATION.lineFromMm - 0.5);
  return words(at, label, sizeMm, { anchor: 'end', bold: k === 0, turnDeg });
}

/** Signed hundredths of a millimetre, or thousandths of an inch: “+27”, “−12.5”. */
export function labelText(offsetMm: number, unit: LengthUnit): string {
  const value = unit === 'mm' ? offsetMm * 100 : fromMm(offsetMm, 'in') * 1000;
  const rounded = Math.round(value * 10) / 10;
  return signed(rounded, Number.isInteger(rounded) ? 0 : 1);
}

/** The coarse cross: graduations of half a millimetre on both axes, numbered at 4 and 6. */
function crossMarks(centre: Point): Drawn[] {
  const arm = STATION.crossArmMm;
  const marks: Drawn[] = [
    line({ x: centre.x - arm, y: centre.y }, { x: centre.x + arm, y: centre.y }, FINE_MM),
    line({ x: centre.x, y: centre.y - arm }, { x: centre.x, y: centre.y + arm }, FINE_MM),
  ];
  const count = Math.round(arm / COARSE_GRADUATION_MM);
  for (let i = -count; i <= count; i += 1) {
    const at = i * COARSE_GRADUATION_MM;
    const half = i % 4 === 0 ? 1 : i % 2 === 0 ? 0.7 : 0.4;
    if (i === 0) continue;
    marks.push(
      line({ x: centre.x + at, y: centre.y - half }, { x: centre.x + at, y: centre.y + half }, FINE_MM),
      line({ x: centre.x - half, y: centre.y + at }, { x: centre.x + half, y: centre.y + at }, FINE_MM),
    );
    if (i % 4 !== 0 || Math.abs(i) < 8) continue;
    marks.push(
      words({ x: centre.x + at, y: centre.y - 2.6 }, signed(at, 0), 1.4, { anchor: 'middle' }),
      words({ x: centre.x + 1.3, y: centre.y + at - 0.5 }, signed(at, 0), 1.4),
    );
  }
  return marks;
}

const line = (from: Point, to: Point, widthMm: number, ink: 'print' | 'text' = 'print'): DrawnPath =>
  inkLine(from, to, widthMm, ink);
