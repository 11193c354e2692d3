import { diagnose, type DiagnosedSheet, type DiagnosedStation, type KindOfFault } from '@/core/diagnosis';
import { barLengthsMm } from '@/core/proof';

import { loadScatterOf } from '@/server/setups/setupRecord';

import { passReadings, type Pass, type Session } from './session';

/** Standard uncertainty of a rule laid on a check bar, mm; common practice, no source. */
const RULE_U_MM = 0.15;
/** Fewer readings than this look like any kind of fault. */
const READINGS_TO_TELL = 6;

/**
 * What kind of fault a pass shows, most probable first, together with what was read before it of the same settings and file;
 * null while too little or one axis alone is read, and for strips and checks of one place.
 */
export function kindsOfFault(session: Session, pass: Pass): KindOfFault[] | null {
  const read = passReadings(session, pass);
  if (session.kind !== 'calibration' || read.length < READINGS_TO_TELL) return null;
  if (new Set(read.map((r) => r.observation.axis)).size < 2) return null;
  const alike = (other: Pass): boolean =>
    other.position <= pass.position &&
    JSON.stringify([other.settingsAtCut, other.fileTransform]) ===
      JSON.stringify([pass.settingsAtCut, pass.fileTransform]);
  const { marks } = pass.sheet.geometry.spec;
  const { shiftMm } = loadScatterOf(session.setup, marks, session.record.loads);
  return diagnose(
    { marks: marks?.count ?? 0, registrationSdMm: Math.max(LEAST_SCATTER_MM, shiftMm) },
    session.passes.filter((p) => alike(p) && p.readings.length > 0).map((p) => sheetOf(session, p)),
  );
}

/** Loads are never taken to differ by less: the log may only have been lucky. */
const LEAST_SCATTER_MM = 0.01;

function sheetOf(session: Session, pass: Pass): DiagnosedSheet {
  const nominal = barLengthsMm(pass.sheet.geometry);
  const { barAcrossMm, barAlongMm } = pass;
  return {
    load: String(pass.load),
    job: pass.sheet.label,
    fresh: false,
    stations: passReadings(session, pass).map(({ observation: o }): DiagnosedStation => {
      const across = o.axis === 'across';
      return {
        ...{ x: o.xMm, y: o.yMm },
        ...{ dx: across ? o.offsetMm : null, ux: across ? o.uMm : null },
        ...{ dy: across ? null : o.offsetMm, uy: across ? null : o.uMm },
      };
    }),
    bars:
      barAcrossMm === null || barAlongMm === null
        ? null
        : {
            across: barAcrossMm / nominal.across - 1,
            along: barAlongMm / nominal.along - 1,
            u: RULE_U_MM / Math.min(nominal.across, nominal.along),
          },
  };
}
