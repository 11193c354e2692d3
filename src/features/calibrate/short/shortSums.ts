/* What the short desk works out: fetched once the page can be seen. */
import { assessPass, type Known } from '@/core/calibration';
import type { Rect } from '@/core/geometry';
import type { Station } from '@/core/proof';
import { passReading } from '@/core/readings';
import { OFFSET_AXES, type LengthUnit } from '@/core/units';
import type { SetupSetting } from '@/server/setups/setup';

import { shiftWords } from '../sentences';
import { settingView } from '../settingView';
import type { ShortPicks } from './shortHand';

/** Everything that two picks are worked out with, as the server has it. */
export interface ShortGiven {
  readonly station: Station;
  readonly workArea: Rect;
  readonly toleranceMm: number;
  readonly acuityMm: number | null;
  /** As they stood when the set was cut. */
  readonly settings: readonly SetupSetting[];
  readonly known: Known;
}

/** What is left that no step of the machine takes out is said from here on. */
const SAID_FROM_MM = 0.005;

/** What both picks say to type; the server works out the same from the same. */
export function sayShort(given: ShortGiven, picks: ShortPicks, unit: LengthUnit) {
  const { station, workArea, toleranceMm, acuityMm, settings, known } = given;
  const readings = OFFSET_AXES.map((axis) =>
    passReading(station, axis, picks[axis].pick, picks[axis].coarseMm, acuityMm),
  );
  const typed = settings.filter((s) => s.directionKnown);
  const a = assessPass(readings, typed, workArea, toleranceMm, known);
  if (!a) return null;
  const { changes, leftOver } = a.plan.settings;
  const offMm = Object.fromEntries(readings.map((r) => [r.observation.axis, r.observation.offsetMm]));
  const left = [leftOver.exMm, leftOver.eyMm].map((mm) => (Math.abs(mm) < SAID_FROM_MM ? 0 : mm));
  return {
    leave: a.plan.decision === 'leave',
    rows: changes.map((c) => {
      const view = settingView(c, settings, unit);
      return { ...view, to: { shown: view.to, value: c.to } };
    }),
    offMm: { across: offMm.across!, along: offMm.along! },
    left: left.some((mm) => mm !== 0) ? shiftWords(left[0]!, left[1]!, unit) : '',
    types: changes.some((c) => c.from !== c.to),
  };
}
