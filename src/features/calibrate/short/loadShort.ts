import type { LengthUnit } from '@/core/units';
import 'server-only';

import { pushesAtHand, settingsAtCut, waysOf, type Pass, type Session } from '@/server/sessions/session';
import { knownOf } from '@/server/sessions/assess';
import type { CorrectionWay } from '@/core/setup';
import { movesOnly } from '@/core/calibration';

import { pushView } from '../settingView';
import { handOf, OPEN_HAND, type ShortHand } from './shortHand';
import type { ShortGiven } from './shortSums';

/** What the desk of a short sheet is given. */
export const shortGiven = (session: Session, pass: Pass): ShortGiven => ({
  station: pass.stations[0]!,
  workArea: pass.sheet.geometry.spec.workArea,
  toleranceMm: session.setup.toleranceMm,
  acuityMm: session.acuityMm,
  settings: settingsAtCut(session, pass),
  known: knownOf(session, pass),
});

/** As the combs were picked before, or at their middles. */
export function shortHand(pass: Pass): ShortHand {
  const of = (axis: 'across' | 'along') =>
    pass.readings.flatMap((r) =>
      r.axis === axis && 'line' in r.pick ? [{ pick: r.pick, coarseMm: r.coarseMm }] : [],
    )[0];
  const [across, along] = [of('across'), of('along')];
  return across && along ? handOf({ across, along }) : OPEN_HAND;
}

/** What can carry a shift: whatever the figures are that come of it. */
export const shortWays = (session: Session, pass: Pass): CorrectionWay[] => {
  const moving = settingsAtCut(session, pass).filter(movesOnly);
  const changes = moving.map((s) => ({ settingId: s.id, from: 0, to: 1 }) as never);
  return waysOf(session.setup, { settings: { changes }, restWorthwhile: false });
};

export const shortPushes = (session: Session, unit: LengthUnit) =>
  pushesAtHand(session).map((p) => pushView(p, session.setup.settings, unit));
