import { COARSE_DPI } from '../coarse';
import { encloses } from '../trace';

import { edges, holdsInk, tooLittleBleed, tooNarrow } from './edges';
import { inkOnPage, type Ink } from './ink';
import { boundsOf } from './segments';
import type { CheckContext, CheckedLine, CheckedPrint, Finding, Page } from './types';

/** Pages that differ by more than this are not the same, mm. */
const SAME_PAGE_MM = 0.5;
/** Smaller marks are found badly; marks need this much ink; common practice, no source. */
const LEAST_MARK_MM = 3;
const LEAST_CONTRAST = 90;

/** What pages, marks, bleed and the print itself say. */
export function printFindings(
  lines: readonly CheckedLine[],
  cutPage: Page | null,
  print: CheckedPrint | null,
  c: CheckContext,
): Finding[] {
  return [
    ...pages(cutPage, print?.page ?? null, c),
    ...figures(c),
    ...marks(print, c),
    ...(print?.bitmapsDpi ?? []).filter((dpi) => dpi < COARSE_DPI).map(enlarged),
    ...(print?.ink ? inked(lines, inkOnPage(print.ink, c.media), c) : []),
  ];
}

function pages(cutPage: Page | null, printPage: Page | null, c: CheckContext): Finding[] {
  const named: readonly (readonly [string, Page | null])[] = [
    ['the print', printPage],
    ['the cut file', cutPage],
    ['the printer’s driver', c.driverPage],
    ['the cutter', c.cutterPage],
  ];
  const size = (p: Page): string =>
    `${Math.round(10 * p.widthMm) / 10} × ${Math.round(10 * p.heightMm) / 10} mm`;
  return named.flatMap(([name, page]): Finding[] =>
    page &&
    Math.max(Math.abs(page.widthMm - c.media.widthMm), Math.abs(page.heightMm - c.media.heightMm)) >
      SAME_PAGE_MM
      ? [
          {
            ...{ code: 'page-differs', severity: 'stop', where: null },
            message: `The page of ${name} is ${size(page)}, the media ${size(c.media)}: something will be scaled or shifted.`,
            fix: 'Make all pages the media’s size, at 100 %, not fitted.',
          },
        ]
      : [],
  );
}

function figures({ neededMm, bleedMm, borderMm }: CheckContext): Finding[] {
  if (neededMm === null) return [];
  const small = (mm: number | null): mm is number => mm !== null && mm < neededMm;
  return [
    ...(small(bleedMm)
      ? [
          tooLittleBleed(
            `The bleed is ${bleedMm} mm, and this rig needs ${neededMm} mm hidden`,
            neededMm,
            null,
          ),
        ]
      : []),
    ...(small(borderMm)
      ? [tooNarrow(`The border is ${borderMm} mm, and this rig needs ${neededMm} mm`, neededMm, null)]
      : []),
  ];
}

function marks(print: CheckedPrint | null, c: CheckContext): Finding[] {
  const ink = print?.ink ? inkOnPage(print.ink, c.media) : null;
  return c.marks.flatMap((m): Finding[] => {
    const half = m.sizeMm / 2;
    const box = { x0: m.x - half, y0: m.y - half, x1: m.x + half, y1: m.y + half };
    const p = c.printable;
    if (box.x0 < p.x0 - 0.01 || box.y0 < p.y0 - 0.01 || box.x1 > p.x1 + 0.01 || box.y1 > p.y1 + 0.01)
      return [
        {
          ...{ code: 'marks-clipped', severity: 'stop', where: box },
          message: 'A mark reaches beyond what the printer prints: the sensor will not know it.',
          fix: 'Set the marks farther in.',
        },
      ];
    const found: Finding[] = [];
    const say = (message: string, fix: string): void => {
      found.push({ code: 'marks-hard-to-read', severity: 'look', where: box, message, fix });
    };
    if (m.sizeMm < LEAST_MARK_MM)
      say(`A mark of ${m.sizeMm} mm is found badly.`, `Make it ${LEAST_MARK_MM} mm or larger.`);
    else if (ink && ink.most(box) < LEAST_CONTRAST)
      say(
        'Where a mark belongs the print has none, or a pale one.',
        'Print it solid black on a plain ground.',
      );
    if (ink) {
      const wide = half + m.clearMm;
      const zone = { x0: m.x - wide, y0: m.y - wide, x1: m.x + wide, y1: m.y + wide };
      if (ink.anyAround(zone, box))
        found.push({
          ...{ code: 'in-clear-zone', severity: 'stop', where: zone },
          message: 'Something is printed in the clear zone of a mark: the sensor may take it for the mark.',
          fix: 'Keep the zone blank.',
        });
    }
    return found;
  });
}

const enlarged = (dpi: number): Finding => ({
  ...{ code: 'bitmap-enlarged', severity: 'look', where: null },
  message: `A bitmap is printed at ${Math.round(dpi)} pixels an inch: it will look coarse.`,
  fix: 'Use a larger picture, or print it smaller.',
});

/** The print against the lines: is it this one, does colour go far enough past the cut or stay far enough from it. */
function inked(lines: readonly CheckedLine[], ink: Ink, c: CheckContext): Finding[] {
  const closed = nested(lines.filter((l) => l.closed));
  const pieces = closed.filter((l) => !l.hole);
  const blank = pieces.filter(({ line }) => !holdsInk(line, ink)).length;
  if (2 * blank > pieces.length)
    return [
      {
        ...{ code: 'not-this-print', severity: 'stop', where: null },
        message: `Nothing is printed inside ${blank} of ${pieces.length} lines: this cut file belongs to another print.`,
        fix: 'Take the print and the cut file of the same number.',
      },
    ];
  return c.neededMm === null ? [] : closed.flatMap(({ line, hole }) => edges(line, hole, ink, c.neededMm!));
}

/** Which closed lines are holes: those that lie in an odd number of others. */
function nested(
  closed: readonly CheckedLine[],
): readonly { readonly line: CheckedLine; readonly hole: boolean }[] {
  const bounds = closed.map(boundsOf);
  return closed.map((line, i) => {
    const [b, first] = [bounds[i]!, line.points[0]!];
    const round = closed.filter((other, j) => {
      const o = bounds[j]!;
      const within = i !== j && o.x0 < b.x0 && o.y0 < b.y0 && o.x1 > b.x1 && o.y1 > b.y1;
      return within && encloses(other.points, first);
    });
    return { line, hole: round.length % 2 === 1 };
  });
}
