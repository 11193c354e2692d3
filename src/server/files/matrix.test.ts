import {
  ATTITUDES,
  correctDaily,
  formatsIn,
  frameMap,
  inFrame,
  sectionFrame,
  type FileFrame,
  type Heading,
} from '@/core/daily';
import { DRIFT_VERSION } from '@/core/drift';
import { flatten, mapPath, type Drawing, type DrawnPath } from '@/core/drawing';
import { writeDrawing } from '@/core/drawing/file';
import { affineMap, IDENTITY, invertMap, type Affine, type Point } from '@/core/geometry';
import { planRoll } from '@/core/layout';
import { CORNERS, type Corner, type MarkKit } from '@/core/marks';
import { cutLayer } from '@/core/proof';
import { AS_LAID_OUT, jobDrawing, layOutJob } from '@/core/sheetJob';
import { frozen } from '@/server/runs/frozenPlan';
import type { Run } from '@/server/runs/run';
import { sectionFile, sectionFormats } from '@/server/runs/sectionFile';
import { standingOfSections } from '@/server/runs/standing';
import type { SheetJob } from '@/server/sheetJobs/job';
import { cutFileOf } from '@/server/sheetJobs/jobFiles';
import { jobOf, planRequestSchema } from '@/core/layout/planShape';
import { asDxf } from '@test/foreignFiles';
import { farthestFrom, readManyByEzdxf, strokesByHp2xx } from '@test/readers/outside';
import { filmNode } from '@test/rolls';
import { plainSetup } from '@test/setups';
import { proofSheet } from '@test/sheets';
import { samplePath } from '@test/svgPoints';
import { strokesOfHpgl } from '@test/machine/readers';
import { CUT_FORMATS, type CutFormat } from '@/core/drawing/formats';

/*
 * Every way a file can lie (eight attitudes, zeros of four kinds), every format, everything we make to be cut: a machine that
 * we did not make takes the file by its own axes, errs by T, and lands where the line was meant. Files are read by ezdxf,
 * hp2xx and formulas of the test's own; where zero lies is written out here by hand.
 */

/** What the machine does to a commanded place of the sheet: the files undo it. */
const T: Affine = { a11: 1.0012, a12: -0.0009, a21: 0.0014, a22: 0.9991, tx: 0.45, ty: -0.35 };
const machine = (p: Point): Point => ({
  x: T.a11 * p.x + T.a12 * p.y + T.tx,
  y: T.a21 * p.x + T.a22 * p.y + T.ty,
});

const KIT: MarkKit = {
  ...{ count: 4, shape: 'square', sizeMm: 6, lineMm: 0.5, colour: '#000000', clearMm: 3 },
  ...{ insetLeftMm: 12, insetRightMm: 14, insetNearMm: 16, insetFarMm: 18 },
  ...{ leading: 'near left', leadSign: 'larger', everyMm: null, printerEdgeMm: 4, sensorEdgeMm: 6 },
};
const A4 = { sheetWidthMm: 210, sheetHeightMm: 297 };
const ROLL = { sheetWidthMm: 1370, sheetHeightMm: 600 };

const WAYS: Readonly<Record<Heading, readonly [number, number]>> = {
  right: [1, 0],
  further: [0, 1],
  left: [-1, 0],
  nearer: [0, -1],
};

interface Case {
  readonly words: string;
  readonly frame: FileFrame;
  readonly leading: Corner;
}

/** Eight attitudes, each with four kinds of zero: the corner from which both axes run over the sheet, and another. */
const CASES: readonly Case[] = ATTITUDES.flatMap((attitude, i) => {
  const ways: Heading[] = [attitude.xRuns, attitude.yRuns];
  const from: Corner = `${ways.includes('nearer') ? 'far' : 'near'} ${ways.includes('left') ? 'right' : 'left'}`;
  const corner = CORNERS.filter((c) => c !== from)[i % 3]!;
  const leading = CORNERS[(i + 1) % 4]!;
  const zeros: readonly FileFrame['zero'][] = [
    { at: 'corner', corner: from },
    { at: 'corner', corner },
    { at: 'mark' },
    { at: 'middle' },
    { at: 'typed', xMm: 31, yMm: 22 },
  ];
  return zeros.map((zero) => ({
    words: `x ${attitude.xRuns}, y ${attitude.yRuns}, zero at ${zero.at === 'corner' ? zero.corner : zero.at}`,
    frame: { ...attitude, zero },
    leading,
  }));
});

/**
 * Where zero lies on a sheet from 0 to its far edge, whose mark lines stand at the kit's insets, by hand. A section is such a
 * sheet: its marks' lines are at 0 and at its length, the printable width begins 30 mm in.
 */
function zeroAt({ frame, leading }: Case, box: { x0: number; x1: number; y0: number; y1: number }): Point {
  const { zero } = frame;
  const mm = (p: [number, number]): Point => ({ x: p[0], y: p[1] });
  switch (zero.at) {
    case 'corner':
      return mm([
        zero.corner.endsWith('left') ? box.x0 : box.x1,
        zero.corner.startsWith('near') ? box.y0 : box.y1,
      ]);
    case 'mark':
      return mm([
        leading.endsWith('left') ? box.x0 + 12 : box.x1 - 14,
        leading.startsWith('near') ? box.y0 + 16 : box.y1 - 18,
      ]);
    case 'middle':
      return mm([(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2]);
    case 'typed':
      return mm([box.x0 + zero.xMm, box.y0 + zero.yMm]);
    default:
      return zero satisfies never;
  }
}

/** One file, and where its lines should land. */
interface Made {
  readonly case: Case;
  readonly kind: string;
  readonly format: CutFormat;
  readonly content: string;
  readonly meant: Point[][];
  readonly zero: Point;
}

const pointsOf = (paths: readonly DrawnPath[]): Point[][] =>
  paths.map((path) => {
    const xy = flatten(path, 0.0005);
    return Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }));
  });

const undone = (drawing: Drawing): Drawing => {
  const undo = invertMap(affineMap(T));
  return { ...drawing, paths: drawing.paths.map((p) => mapPath(p, undo)) };
};

const SHEET_BOX = { x0: 0, y0: 0, x1: A4.sheetWidthMm, y1: A4.sheetHeightMm };
const PROOF = cutLayer(proofSheet(), '0147', 1);
const JOB_LINES = [
  [40, 50, 90, 50],
  [90, 50, 90, 120.5],
  [90, 120.5, 40, 50],
  [60, 200, 150, 270],
] as const;

/** Proof sheets, files given from outside, sheet jobs. */
function onSheet(one: Case): Made[] {
  const laid = { ...A4, marks: { ...KIT, leading: one.leading } };
  const map = frameMap(one.frame, laid)!;
  const zero = zeroAt(one, SHEET_BOX);
  const offered = formatsIn(map, SHEET_BOX);
  const square = [0, 1, 2, 3].map((i) => ({ x: 45 * Number(i % 3 > 0), y: 30 * Number(i > 1) }));
  const laidOut = layOutJob(
    [
      {
        ...{ id: 'A', picture: { widthMm: 45, heightMm: 30, at: { x: 0, y: 0 } }, ink: [square], bleedMm: 0 },
        ...{ lines: [{ points: square, areaMm2: 1350, hole: false }], kind: 'kiss-cut', copies: 5 },
      },
    ],
    { gapMm: 3, centre: false, mayTurn: true },
    { ...A4, area: { x0: 8, y0: 8, x1: 202, y1: 289 }, marks: laid.marks },
  );
  if (!laidOut.ok) throw new Error(laidOut.refusal.code);
  const geometry = laidOut.value;
  const job = { geometry, frozenAs: { fileMap: map } } as unknown as SheetJob;
  const toFile = (x: number, y: number): [number, number] => {
    const [ux, uy] = WAYS[one.frame.xRuns];
    const [vx, vy] = WAYS[one.frame.yRuns];
    return [ux * (x - zero.x) + uy * (y - zero.y), vx * (x - zero.x) + vy * (y - zero.y)];
  };
  const given = asDxf(JOB_LINES.map(([a, b, c, d]) => [...toFile(a, b), ...toFile(c, d)] as const));
  const daily = { ...laid, frame: one.frame, fileTransform: T };
  return CUT_FORMATS.flatMap((format): Made[] => {
    const corrected = correctDaily(given, daily, false, format);
    if (!offered.includes(format)) {
      expect(corrected).toEqual({ ok: false, refusal: { code: 'below-zero' } });
      return [];
    }
    if (!corrected.ok) throw new Error(corrected.refusal.code);
    const cut = { cutting: AS_LAID_OUT, correction: T } as Parameters<typeof cutFileOf>[2];
    const base = { case: one, format, zero };
    return [
      {
        ...{ ...base, kind: 'proof', meant: pointsOf(PROOF.paths) },
        content: writeDrawing(inFrame(undone(PROOF), map, SHEET_BOX), format),
      },
      {
        ...{ ...base, kind: 'daily', content: corrected.value.content },
        meant: JOB_LINES.map(([a, b, c, d]) => [
          { x: a, y: b },
          { x: c, y: d },
        ]),
      },
      {
        ...{ ...base, kind: 'sheet job', meant: pointsOf(jobDrawing(geometry, 0).paths) },
        content: cutFileOf(job, 0, cut, format),
      },
    ];
  });
}

const REQUEST = planRequestSchema.parse({
  ...{ item: { widthMm: 185, heightMm: 110 }, copies: 40, gapMm: 4, printableWidthMm: 1310 },
  ...{ rowsPerSection: 4, markRoomMm: 20, betweenMm: 10 },
});

/** Sections of a run, the shorter last one too: T is the setup's, in the axes of its sheet. */
function onRoll(one: Case): Made[] {
  const setup = plainSetup({ ...ROLL, marks: { ...KIT, leading: one.leading } });
  const planned = planRoll(jobOf(REQUEST), { along: [filmNode()], across: [filmNode()] }, 96, {
    registers: true,
    bothEnds: false,
    longestMm: null,
    everyMm: null,
  });
  if (!planned.ok) throw new Error(planned.refusal.code);
  const strategy = planned.value.strategies.find((s) => s.name === 'sections')!;
  // Of the setup’s sheet the section’s zero is 30 mm in, on the near marks’ line: T about the section’s zero is T there.
  const onSheet = {
    ...T,
    tx: T.tx + 30 - (T.a11 * 30 + T.a12 * 16),
    ty: T.ty + 16 - (T.a21 * 30 + T.a22 * 16),
  };
  const standing = standingOfSections({ id: crypto.randomUUID(), fileTransform: onSheet }, setup, 1310);
  const frame = sectionFrame(one.frame, setup, 1310);
  const plan = frozen(
    REQUEST,
    planned.value,
    strategy,
    DRIFT_VERSION,
    { untilCheckedMm: 0, thenMm: 0 },
    frame,
    standing,
  );
  const run = {
    ...{
      label: 'R001',
      name: '$1 & <tags>',
      setup,
      plan,
      standing,
      itemFile: null,
      witnessXMm: null,
      files: [],
    },
    sections: plan.sections.map(({ index }) => ({ index })),
  } as unknown as Run;
  const applied = { version: 'f', map: IDENTITY, stretch: 1, r95Mm: 0.1, standing: standing.map };
  return [1, plan.sections.length].flatMap((index) => {
    const section = plan.sections[index - 1]!;
    const length = section.endMm - section.startMm;
    const box = { x0: -30, x1: 1340, y0: -16, y1: length + 18 };
    const drawn = sectionFile({ ...run, plan: { ...plan, frame: null } }, index, 'dxf', null);
    if (!drawn.ok) throw new Error('drawn');
    return sectionFormats(run, index).map((format): Made => {
      const file = sectionFile(run, index, format, applied);
      if (!file.ok) throw new Error('file');
      const { imposition, markRoomMm } = plan;
      const meant = Array.from({ length: section.copies }, (_, i) => {
        const x = imposition.columnsAtMm[i % imposition.columns]!;
        const y = markRoomMm + Math.floor(i / imposition.columns) * 114;
        return [
          { x, y },
          { x: x + 185, y },
          { x: x + 185, y: y + 110 },
          { x, y: y + 110 },
          { x, y },
        ];
      });
      return {
        case: one,
        kind: `section ${index}`,
        format,
        content: file.value.content,
        meant,
        zero: zeroAt(one, box),
      };
    });
  });
}

function readSvg(svg: string): Point[][] {
  const height = Number(/viewBox="0 0 \S+ (\S+)"/.exec(svg)![1]);
  return [...svg.matchAll(/<path[^>]*? d="([^"]*)"/g)].flatMap(([, d]) =>
    d!
      .split(/(?=M)/)
      .filter(Boolean)
      .map((part) => {
        const points = samplePath(part, 200, 1);
        return (/z/i.test(part) ? [...points, points[0]!] : points).map((p) => ({ x: p.x, y: height - p.y }));
      }),
  );
}

test('all eight attitudes, four zeros, three formats, everything that we make: cut within 0.02 mm of where it should be', () => {
  const all = CASES.flatMap((one) => [...onSheet(one), ...onRoll(one)]);
  const of = (format: CutFormat): Made[] => all.filter((m) => m.format === format);
  const read = new Map<Made, Point[][]>();
  const dxf = readManyByEzdxf(of('dxf').map((m) => m.content));
  of('dxf').forEach((m, i) => read.set(m, dxf[i]!));
  const hpgl = strokesByHp2xx(
    of('hpgl').map((m) => m.content),
    -1400,
  );
  of('hpgl').forEach((m, i) => {
    const strokes = strokesOfHpgl(m.content).map((line) => line.map(([x, y]) => ({ x, y })));
    read.set(m, strokes);
    // hp2xx reads the same, as far as its six figures go.
    expect(farthestFrom(strokes, hpgl[i]!.flat())).toBeLessThan(0.01);
  });
  for (const m of of('svg')) read.set(m, readSvg(m.content));
  const worst = new Map<string, number>();
  for (const [m, lines] of read) {
    const [ux, uy] = WAYS[m.case.frame.xRuns];
    const [vx, vy] = WAYS[m.case.frame.yRuns];
    const landed = lines.map((line) =>
      line.map(({ x, y }) => machine({ x: m.zero.x + ux * x + vx * y, y: m.zero.y + uy * x + vy * y })),
    );
    const off = Math.max(farthestFrom(landed, m.meant.flat()), farthestFrom(m.meant, landed.flat()));
    const what = `${m.kind}, ${m.format}`;
    worst.set(what, Math.max(worst.get(what) ?? 0, off));
    if (off > 0.02) throw new Error(`${m.case.words}: ${what} lands ${off.toFixed(3)} mm off`);
  }
  // Forty ways in DXF and HP-GL, fewer where part of the sheet lies below an SVG’s page.
  expect(of('dxf')).toHaveLength(40 * 5);
  expect(of('hpgl')).toHaveLength(40 * 5);
  // Each attitude from its own corner, and sections from a mark outside the printable width.
  expect(of('svg').length).toBeGreaterThanOrEqual(8 * 5);
  expect(worst.size).toBe(15);
});
