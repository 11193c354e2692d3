import { assessPass, type Assessment, type Known } from '@/core/calibration';
import { DECLARED_EFFECT_U, expectedAfter, type Expected } from '@/core/correction';
import { IDENTITY } from '@/core/geometry';
import type { OffsetAxis } from '@/core/units';
import { loadScatterOf } from '@/server/setups/setupRecord';
import { lengthRows } from '@/core/readings';

import { logAtHand } from './logAtHand';
import { featuresOf, isShort, passReadings, settingsAtCut, type Pass, type Session } from './session';

/** What was worked out of the passes of a session: as long as that session is held, and no longer. */
const workedOut = new WeakMap<Session, WeakMap<Pass, Assessment | null>>();

/** What the readings of a pass say; null without readings. */
export function assess(session: Session, pass: Pass): Assessment | null {
  const known = workedOut.get(session) ?? new WeakMap<Pass, Assessment | null>();
  workedOut.set(session, known);
  // A pass is asked for by its page, its chart and by the set that was read after it.
  if (!known.has(pass)) known.set(pass, assessed(session, pass));
  return known.get(pass) ?? null;
}

/** The same without some readings: to show what they do. */
export const assessWithout = (
  session: Session,
  pass: Pass,
  which: readonly { readonly stationId: string; readonly axis: OffsetAxis }[],
): Assessment | null =>
  assess(session, {
    ...pass,
    readings: pass.readings.filter(
      (r) => !which.some((w) => w.stationId === r.stationId && w.axis === r.axis),
    ),
  });

const assessed = (session: Session, pass: Pass): Assessment | null =>
  assessPass(
    passReadings(session, pass),
    settingsAtCut(session, pass).filter((s) => s.directionKnown),
    pass.sheet.geometry.spec.workArea,
    session.setup.toleranceMm,
    knownOf(session, pass),
  );

/** What is known beside the readings of a pass. */
export const knownOf = (session: Session, pass: Pass): Known => ({
  load: loadScatterOf(session.setup, pass.sheet.geometry.spec.marks, session.record.loads),
  expected: expectedOf(session, pass),
  log: logAtHand(session, pass, (earlier) => assess(session, earlier)),
  lengths: lengthRows(featuresOf(pass), pass.lengths),
  short: isShort(pass),
});

/** What the set that was read before on the same load leads to expect of this one. */
function expectedOf(session: Session, pass: Pass): Expected | null {
  // By its id: the pass may be one of which some readings are left out.
  const previous = session.passes[session.passes.findIndex((p) => p.id === pass.id) - 1];
  if (!previous || previous.load !== pass.load || previous.correction?.done === 'push') return null;
  const before = assess(session, previous);
  if (!before || (before.scope !== 'whole-area' && !before.middle)) return null;
  const was = settingsAtCut(session, previous);
  const typed = settingsAtCut(session, pass).map((s, i) => ({
    effect: s.effect,
    by: s.value - was[i]!.value,
    effectU: s.effectU ?? DECLARED_EFFECT_U,
  }));
  const files = { before: previous.fileTransform ?? IDENTITY, after: pass.fileTransform ?? IDENTITY };
  return expectedAfter(before.estimate, typed, files);
}
