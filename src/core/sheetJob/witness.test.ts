import fc from 'fast-check';

import { seenOn } from '@test/drawn';
import { flatten } from '../drawing';
import { loneStationReach } from '../proof';
import { TWO_MARKS } from '@test/setups';
import { clearZone, markPlaces } from '../marks';

import {
  jobDrawing,
  jobPrint,
  layOutJob,
  WITNESS_LAYER,
  witnessSheet,
  witnessStation,
  type JobLayout,
  type JobPiece,
} from '.';

const SHEET = {
  ...{ sheetWidthMm: 210, sheetHeightMm: 297, marks: TWO_MARKS },
  area: { x0: 8, y0: 8, x1: 202, y1: 289 },
};
const square = (w: number, h: number) => [
  { x: 0, y: 0 },
  { x: w, y: 0 },
  { x: w, y: h },
  { x: 0, y: h },
];
const piece = (w: number, h: number, copies: number | null): JobPiece => ({
  ...{ id: 'A', picture: { widthMm: w, heightMm: h, at: { x: 0, y: 0 } }, ink: [square(w, h)], bleedMm: 1 },
  ...{ lines: [{ points: square(w, h), areaMm2: w * h, hole: false }], kind: 'kiss-cut', copies },
});
function laid(
  w: number,
  h: number,
  { copies = null, ...layout }: Partial<JobLayout> & { copies?: number | null } = {},
) {
  const of = { gapMm: 3, centre: false, mayTurn: true, witness: true, ...layout };
  const job = layOutJob([piece(w, h, copies)], of, SHEET);
  if (!job.ok) throw new Error(job.refusal.code);
  return job.value;
}

test('property: it costs no piece, and lies clear of pieces, marks, label and edges', () => {
  const reach = loneStationReach(0.1);
  let there = 0;
  fc.assert(
    fc.property(
      fc.integer({ min: 15, max: 120 }),
      fc.integer({ min: 15, max: 120 }),
      fc.integer({ min: 1, max: 40 }),
      (w, h, copies) => {
        const job = laid(w, h, { copies });
        const without = laid(w, h, { copies, witness: false });
        expect(job.sheets).toEqual(without.sheets);
        expect(without.witness).toBeUndefined();
        const marks = markPlaces(TWO_MARKS, SHEET).map((m) => clearZone(TWO_MARKS, m));
        job.sheets.forEach((placed, i) => {
          const at = job.witness![i];
          if (!at) return;
          there += 1;
          const box = {
            x0: at.x - reach.left,
            x1: at.x + reach.right,
            y0: at.y - reach.near,
            y1: at.y + reach.far,
          };
          for (const r of [...placed.map((p) => p.box), ...marks, job.label])
            expect(box.x0 >= r.x1 || box.x1 <= r.x0 || box.y0 >= r.y1 || box.y1 <= r.y0).toBe(true);
          expect(box.x0).toBeGreaterThanOrEqual(SHEET.area.x0);
          expect(box.x1).toBeLessThanOrEqual(SHEET.area.x1);
          expect(box.y1).toBeLessThanOrEqual(SHEET.area.y1);
        });
      },
    ),
    { numRuns: 60 },
  );
  expect(there).toBeGreaterThan(10);
});

test('where pieces fill the sheet there is none, and nothing is printed or cut of it', () => {
  const job = laid(150, 255, { mayTurn: false });
  expect(job.witness).toEqual([null]);
  expect(witnessStation(job, 0)).toBeNull();
  expect(jobDrawing(job, 0).layers.map((l) => l.name)).toEqual(['kiss-cut']);
});

test('it is printed and cut where its station says, on a layer and with a pen of its own, before the pieces', () => {
  const job = laid(40, 30, { copies: 6 });
  const station = witnessStation(job, 0)!;
  const { paths, layers } = jobDrawing(job, 0);
  expect(layers.map((l) => l.name)).toEqual([WITNESS_LAYER, 'kiss-cut']);
  const own = paths.filter((p) => p.layer === WITNESS_LAYER);
  expect(paths.indexOf(own.at(-1)!)).toBe(own.length - 1);
  expect(new Set(own.map((p) => p.pen))).toEqual(new Set([6]));
  const window = own.find((p) => p.closed)!;
  const xy = flatten(window, 0.001);
  const mean = (odd: 0 | 1): number => {
    const of = xy.filter((_, i) => i % 2 === odd);
    return (Math.min(...of) + Math.max(...of)) / 2;
  };
  expect(mean(0)).toBeCloseTo(station.centre.x, 3);
  expect(mean(1)).toBeCloseTo(station.centre.y, 3);
  const printed = jobPrint(job, { number: 'P1', name: 'n', date: 'd', qr: [[true]] }, 0);
  const rings = seenOn(printed).flatMap((m) => (m.kind === 'ring' ? [m.centre] : []));
  expect(rings).toContainEqual(station.centre);
  const sheet = witnessSheet(job.sheet, station, 'P0001', 1);
  expect(sheet.stations).toEqual([station]);
  expect(sheet.spec).toMatchObject({ columns: 1, rows: 1, secondSet: false, marks: TWO_MARKS });
});
