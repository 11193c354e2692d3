import { SAME } from '@/core/tolerance';
import { CHECK_PLACES, type CheckPlace } from '@/core/setup';
import { capital, lengthText, type LengthUnit, type OffsetAxis, offsetText, rateText } from '@/core/units';
import { inForce, standingLeft, UNDOABLE, type Run } from '@/server/runs/run';
import type { NextSection, OpenSlip } from '@/server/runs/outlook';

import { expectedWords } from '@/ui/words/planWords';

/** The section to be cut next; null when all are cut. */
export const nextIndex = (run: Run): number | null =>
  run.sections.find((s) => s.state === 'waiting')?.index ?? null;

/** The last section that is cut; null before the first. */
export const lastCut = (run: Run): number | null =>
  run.sections.findLast((s) => s.state !== 'waiting')?.index ?? null;

/** Sections that are cut and were never checked. */
export const unchecked = (run: Run): number[] =>
  run.sections
    .filter((s) => s.state !== 'waiting' && !run.checks.some((c) => c.section === s.index))
    .map((s) => s.index);

/** Rows of the section cut last that nobody has read yet: while it is still held, they come before the next section. */
export function rowsToCheck(run: Run): CheckPlace[] {
  const last = lastCut(run);
  if (last === null) return [];
  const places: readonly CheckPlace[] =
    run.plan.sections[last - 1]!.rows === 1 ? ['first row'] : CHECK_PLACES;
  return places.filter((place) => !run.checks.some((c) => c.section === last && c.place === place));
}

const between = ({ before, after }: OpenSlip): string =>
  before.section === after.section
    ? `inside section ${after.section}`
    : `between section ${before.section} and ${after.section}`;

export interface RunAnswer {
  readonly words: string;
  readonly go: 'go' | 'stop' | 'rest' | 'done';
}

/** What is so and what to do next, in a sentence or two. */
export function runAnswer(
  run: Run,
  next: NextSection | null,
  slip: OpenSlip | null,
  unit: LengthUnit,
): RunAnswer {
  const { toleranceMm } = run.plan.request;
  if (run.stage === 'paused')
    return {
      words: `${run.label} rests. ${next ? `Section ${next.index} of ${run.sections.length} is next; its cut data must stay as it is.` : 'All sections are cut.'}`,
      go: 'rest',
    };
  if (slip && next)
    return {
      words: `The cut moved about ${offsetText(slip.sizeMm, slip.axis, unit)} ${between(slip)}. Register anew before section ${next.index}, or keep it and let the files make up for it.`,
      go: 'stop',
    };
  if (!next)
    return {
      words: `All ${run.sections.length} sections are cut. Weed, count what was spoiled, and close the run.`,
      go: 'done',
    };
  if (run.newStanding)
    return {
      words: `${capital(run.setup.media)} was corrected anew since this run was planned. Say which correction the file of section ${next.index} carries.`,
      go: 'stop',
    };
  const section = run.plan.sections[next.index - 1]!;
  const rows =
    section.rows === 1
      ? `row ${section.firstRow}`
      : `rows ${section.firstRow} to ${section.firstRow + section.rows - 1}`;
  const r95 = lengthText(next.outlook.r95Mm, unit);
  const planned = run.plan.expected;
  // Nothing is known of where this run starts: its first rows tell.
  const unknown = lastCut(run) === null && planned !== null;
  if (unknown && next.outlook.r95Mm > toleranceMm)
    return {
      words: `Where this run starts is not known yet: expect at most ${expectedWords(planned, unit)}; ${lengthText(toleranceMm, unit)} is allowed. Quick-check the rig on this media first, or take section ${next.index} as the trial.`,
      go: 'stop',
    };
  if (next.outlook.r95Mm > toleranceMm)
    return {
      words: `Stop: section ${next.index} may miss by ${r95} and ${lengthText(toleranceMm, unit)} is allowed. Check the last section, or register anew.`,
      go: 'stop',
    };
  const last = lastCut(run);
  if (last !== null && unchecked(run).includes(last))
    return {
      words: `Section ${last}, ${rowsToCheck(run)[0]}: move the dashed cut until it looks like your piece.`,
      go: 'go',
    };
  return {
    words: `Load section ${next.index} of ${run.sections.length}, ${rows}, and cut it with its corrected file. Expect at most ${unknown ? expectedWords(planned, unit) : r95}; ${lengthText(toleranceMm, unit)} is allowed.`,
    go: 'go',
  };
}

/** A check that wander hardly explains and that is no sure slip either: to be read once more while it can be. */
export function readAgainWords(run: Run, next: NextSection | null, unit: LengthUnit): string | null {
  const last = lastCut(run);
  const doubts = (['along', 'across'] as const).flatMap((axis) => {
    const unsure = next?.outlook[axis].unsure;
    if (!unsure) return [];
    const same = run.checks.filter((c) => Math.abs(c.yMm / 1000 - unsure.toM) < SAME);
    const read = same.filter((c) => (axis === 'along' ? c.dyMm : c.dxMm) !== null);
    return read.length === 1 && read[0]!.section === last ? [{ axis, unsure, check: read[0]! }] : [];
  });
  const most = doubts.sort((a, b) => b.unsure.statistic - a.unsure.statistic)[0];
  if (!most) return null;
  const { axis, unsure, check } = most;
  return `Its ${check.place} moved ${offsetText(unsure.sizeMm, axis, unit)}, ${unsure.statistic.toFixed(1)} times what this media usually wanders: a small slip, or misread. Read it once more before section ${next!.index}; both count.`;
}

/** What the file of a section does, in words: “moves the cut 0.21 mm back, 0.03 mm left, stretches it 0.31 mm per m”. */
export function correctionWords(next: NextSection, unit: LengthUnit): string {
  const { map, stretch } = next.applied;
  const stretching = stretch - 1 - (map.a22 - 1);
  const parts = [offsetText(-map.ty, 'along', unit), offsetText(-map.tx, 'across', unit)].filter(
    (words) => !/^0\.0+ /.test(words) || /[a-z]{4}/.test(words),
  );
  const moved = parts.length > 0 ? `moves the cut ${parts.join(' and ')}` : 'leaves the cut where it is';
  const perM = 1000 * stretching;
  if (Math.abs(perM) < 0.005) return `The file ${moved}.`;
  return `The file ${moved} and makes it ${rateText(perM, unit)} ${perM > 0 ? 'longer' : 'shorter'}.`;
}

/** Sections on a chart at a time. */
export const MOST_ON_CHART = 24;

/** A section of the control chart on one axis: what was read, and what was to be expected. */
export interface ChartSection {
  readonly index: number;
  readonly expectedMm: number;
  readonly halfWidthMm: number;
  readonly checks: readonly {
    readonly id: string;
    readonly place: CheckPlace;
    readonly offsetMm: number;
    readonly uMm: number;
  }[];
  readonly state: 'cut' | 'next' | 'ahead';
}

/** Expected and read misses by section: of corrected sections about zero, of sections cut as drawn about the forecast. */
export function chartSections(run: Run, outlooks: readonly NextSection[], axis: OffsetAxis): ChartSection[] {
  const next = nextIndex(run);
  return outlooks.map(({ index, outlook, stretch }) => {
    const own = run.sections[index - 1]!;
    const { startMm, endMm } = run.plan.sections[index - 1]!;
    const asDrawn = own.state !== 'waiting' && own.applied === null;
    const end = outlook[axis].atEnd;
    // Cut as drawn after laminating, it lies back by what the print grew.
    const behindMm = axis === 'along' ? (stretch - 1) * (endMm - startMm) : 0;
    const left = standingLeft(run, index, endMm - startMm);
    const leftMm = own.state === 'waiting' ? 0 : axis === 'along' ? left.dy : left.dx;
    return {
      index,
      expectedMm: leftMm + (asDrawn ? end.offsetMm - behindMm : 0),
      halfWidthMm: 1.96 * Math.sqrt(end.varianceMm2),
      checks: run.checks
        .filter((c) => c.section === index)
        .flatMap((c) => {
          const offsetMm = axis === 'along' ? c.dyMm : c.dxMm;
          return offsetMm === null ? [] : [{ id: c.id, place: c.place, offsetMm, uMm: c.uMm }];
        }),
      state: own.state !== 'waiting' ? 'cut' : index === next ? 'next' : 'ahead',
    };
  });
}

/** The step that undoing takes back: the newest of those in force. */
export const newestUndoable = (run: Run) =>
  UNDOABLE.flatMap((kind) => inForce(run, kind).map((event) => ({ ...event, kind }))).sort(
    (a, b) => b.at.getTime() - a.at.getTime(),
  )[0];
