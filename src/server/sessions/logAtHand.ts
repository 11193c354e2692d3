import type { Assessment, LogAtHand } from '@/core/calibration';
import { fieldToTransform, transformToField, addFields } from '@/core/fit';
import { compose, IDENTITY, rectCentre, sameRect } from '@/core/geometry';
import { logPrior } from '@/core/record';
import {
  daysOf,
  loadScatterOf,
  typedDoubt,
  typedField,
  type ToldOnRecord,
} from '@/server/setups/setupRecord';

import { isShort, unknownOf, type Pass, type Session } from './session';

/**
 * What the log leads to expect of the load of a pass: the loads on record before the session, and those of the session
 * before this one. Null when it holds too little, or when what it holds was of another work area.
 */
export function logAtHand(
  session: Session,
  pass: Pass,
  assessed: (earlier: Pass) => Assessment | null,
): LogAtHand | null {
  const { setup, record, kind } = session;
  if (kind === 'roll-proof' || setup.changeable === 'machine-page') return null;
  // What was typed into a setting of unknown direction did nobody knows what.
  if (unknownOf(setup.settings).length > 0) return null;
  if (!sameRect(pass.sheet.geometry.spec.workArea, setup.workArea)) return null;
  const told: ToldOnRecord[] = [...record.told];
  let { eventSince } = record;
  for (const earlier of firstSets(session, pass.load)) {
    const estimate = assessed(earlier)?.estimate;
    if (!estimate || (estimate.model !== 'affine' && estimate.model !== 'projective')) continue;
    const origin = rectCentre(setup.workArea);
    const whole = compose(fieldToTransform(estimate.field), earlier.fileTransform ?? IDENTITY);
    const last = told.at(-1);
    told.push({
      atDays: daysOf(earlier.createdAt),
      own: addFields(transformToField(whole, origin), typedField(setup, earlier.settingsAtCut), -1),
      covariance: estimate.covarianceKnownU.map((row) => row.map((v) => v * estimate.noise.factor ** 2)),
      afterEvent: eventSince,
      typedCovariance: last ? typedDoubt(setup, last.typed, earlier.settingsAtCut) : null,
      typed: earlier.settingsAtCut,
    });
    eventSince = false;
  }
  const last = told.at(-1);
  if (!last) return null;
  const prior = logPrior(
    told,
    setup.workArea,
    loadScatterOf(setup, pass.sheet.geometry.spec.marks, record.loads),
    {
      atDays: daysOf(pass.createdAt),
      afterEvent: eventSince,
      typedCovariance: typedDoubt(setup, last.typed, pass.settingsAtCut),
    },
    // What two picks leave unseen, one full load tells better than what untouched rigs may be off.
    isShort(pass) ? 0 : undefined,
  );
  return (
    prior && {
      prior,
      typed: typedField(setup, pass.settingsAtCut),
      file: pass.fileTransform ?? IDENTITY,
    }
  );
}

/** The first set of each load of the session before this one. */
const firstSets = (session: Session, load: number): Pass[] =>
  session.passes.filter(
    (p) => p.load < load && session.passes.find((other) => other.load === p.load)!.id === p.id,
  );
