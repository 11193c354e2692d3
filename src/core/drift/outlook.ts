import type { Affine } from '../geometry';
import type { Random } from '../random/random';
import { radialQuantile } from '../statistics';

import {
  expectAhead,
  possibleSlip,
  slipInRun,
  type Expected,
  type PossibleSlip,
  type SlipNow,
} from './follow';
import type { DriftNode, DriftRun } from './types';

/** Kept with every correction of a section. */
export const FOLLOW_VERSION = 'follow-2';

/** One axis of a run that is going on, with what the log knows. */
export interface FollowedAxis {
  readonly run: DriftRun;
  readonly nodes: readonly DriftNode[];
  readonly unitVarMm2: number;
  /** Standard deviation of the run's offset before its first check. */
  readonly startSdMm: number;
}

/** A section ahead, m from the run's first registration. */
export interface SectionAhead {
  readonly startM: number;
  readonly endM: number;
  /** Where the cutter reads marks for it: nowhere anew, at its start, or at both ends so that it is stretched to fit. */
  readonly registers: 'no' | 'start' | 'throughout';
  /** Length of the print after laminating over length before; 1 when left out. */
  readonly stretch?: number;
  /** Whether to look for slips in what was read; yes when left out. */
  readonly slips?: boolean;
}

export interface AxisOutlook {
  readonly atStart: Expected;
  readonly atEnd: Expected;
  readonly slip: SlipNow | null;
  /** A step too small to be called a slip and too large to be passed over: one more reading tells. */
  readonly unsure: PossibleSlip | null;
}

/** What the next section is expected to do, and what its cut file undoes. */
export interface SectionOutlook {
  readonly along: AxisOutlook;
  readonly across: AxisOutlook;
  /** Of 100 cuts 95 stay within this at the worse end: with the correction, and without. */
  readonly r95Mm: number;
  readonly r95AsDrawnMm: number;
  /** T in the section's own frame, y from its start in mm: what the cut file undoes, the laminate's stretch aside. */
  readonly map: Affine;
}

/**
 * Outlook on a section from the log and this run's checks on both axes.
 *
 * Units    m along the run, mm off; the map in mm.
 * Method   expected offsets at the section's two ends, joined by a straight line: shift, stretch and lean.
 */
export function sectionOutlook(
  along: FollowedAxis,
  across: FollowedAxis,
  ahead: SectionAhead,
  random: Random,
): SectionOutlook {
  const axis = ({ run, nodes, unitVarMm2, startSdMm }: FollowedAxis): AxisOutlook => {
    const looked = ahead.slips !== false;
    const maybe = looked ? possibleSlip(run, nodes, unitVarMm2, startSdMm) : null;
    const at = (yM: number): Expected => {
      const registeredAtM = { no: null, start: ahead.startM, throughout: yM }[ahead.registers];
      return expectAhead(run, { yM, registeredAtM }, nodes, unitVarMm2, startSdMm, maybe);
    };
    const slip = looked ? slipInRun(run, nodes, unitVarMm2, random, startSdMm) : null;
    return {
      atStart: at(ahead.startM),
      atEnd: at(ahead.endM),
      slip,
      unsure: slip === null ? maybe : null,
    };
  };
  const y = axis(along);
  const x = axis(across);
  const lengthMm = 1000 * (ahead.endM - ahead.startM);
  // A cut that does not follow the laminate lies back by what the print grew.
  const fallenBehindMm = { atStart: 0, atEnd: ((ahead.stretch ?? 1) - 1) * lengthMm };
  const r95 = (share: number): number =>
    Math.max(
      ...(['atStart', 'atEnd'] as const).map((end) =>
        radialQuantile(
          {
            meanX: share * x[end].offsetMm,
            meanY: share * (y[end].offsetMm - fallenBehindMm[end]),
            varX: x[end].varianceMm2,
            varY: y[end].varianceMm2,
            covXY: 0,
          },
          0.95,
        ),
      ),
    );
  const slope = (a: AxisOutlook): number =>
    lengthMm > 0 ? (a.atEnd.offsetMm - a.atStart.offsetMm) / lengthMm : 0;
  return {
    along: y,
    across: x,
    r95Mm: r95(0),
    r95AsDrawnMm: r95(1),
    map: {
      a11: 1,
      a12: slope(x),
      a21: 0,
      a22: 1 + slope(y),
      tx: x.atStart.offsetMm,
      ty: y.atStart.offsetMm,
    },
  };
}
