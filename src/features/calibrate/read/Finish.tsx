import Link from 'next/link';
import { useMemo, useState, useTransition, type RefObject } from 'react';
import Button from 'react-bootstrap/Button';

import type { Assessment } from '@/core/calibration';
import type { Observation } from '@/core/fit';
import type { Rect } from '@/core/geometry';
import { plausible, type Usual } from '@/core/record/plausible';
import type { ProofSheet, Station } from '@/core/proof';
import { passReading, type PassReading } from '@/core/readings';
import type { LengthUnit } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';

import { readingIsDone } from '../actions';
import { shiftWords } from '../sentences';
import type { KeptReading } from './useReadings';

type Sums = typeof import('./readingSums');

/** What the readings say so far; nothing before the sums are here. */
export function useSoFar(
  sums: Sums | null,
  readings: readonly KeptReading[],
  {
    sheet,
    others,
    toleranceMm,
    acuityMm,
  }: {
    readonly sheet: ProofSheet;
    readonly others: readonly PassReading[];
    readonly toleranceMm: number;
    readonly acuityMm: number | null;
  },
): { readonly assessment: Assessment | null; readonly observations: readonly Observation[] } {
  return useMemo(() => {
    if (!sums) return { assessment: null, observations: [] };
    const found = readings.flatMap((r) => {
      const station = sheet.stations.find((s) => s.id === r.stationId);
      return station ? [passReading(station, r.axis, r.pick, r.coarseMm, acuityMm)] : [];
    });
    const all = [...found, ...others];
    return {
      assessment: sums.assessPass(all, [], sheet.spec.workArea, toleranceMm),
      observations: all.map((r) => r.observation),
    };
  }, [sums, readings, others, sheet, toleranceMm, acuityMm]);
}

/** Nothing is left to read: what all of it says. */
export const allReadWords = (combs: number, { fit }: Assessment, unit: LengthUnit): string =>
  `All ${combs} combs are read: the cut lands ${shiftWords(fit.field.exMm, fit.field.eyMm, unit)}.`;

/** Why a set that lies farther off than all that is on record is asked about; null where it is not. */
function farOff({ fit: { field }, axis }: Assessment, usual: Usual, unit: LengthUnit): string | null {
  const sizes = [axis === 'along' ? 0 : field.exMm, axis === 'across' ? 0 : field.eyMm].map(Math.abs);
  const judged = plausible('set', Math.max(...sizes), usual, unit);
  return judged.say === 'ask' ? judged.why : null;
}

/** What the readings say so far, and the way on. */
export function Finish({
  sessionId,
  sheetLabel,
  usual,
  sums,
  assessment,
  observations,
  area,
  others,
  combs,
  kept,
  stations,
  here,
  onGo,
  unsaved,
  button,
  unit,
}: {
  sessionId: string;
  sheetLabel: string;
  /** What a set is judged by. */
  usual: Usual;
  sums: Sums | null;
  assessment: Assessment | null;
  observations: readonly Observation[];
  area: Rect;
  /** How much was read another way. */
  others: number;
  combs: number;
  /** Of these, read. */
  kept: number;
  stations: readonly Station[];
  /** The station under the eye. */
  here: string;
  onGo: (stationId: string) => void;
  unsaved: number;
  button: RefObject<HTMLButtonElement | null>;
  unit: LengthUnit;
}) {
  const [finishing, startFinish] = useTransition();
  const [asked, setAsked] = useState(false);
  const far = assessment && farOff(assessment, usual, unit);
  const [refused, setRefused] = useState('');
  const finish = (): void => {
    if (far !== null && !asked) return setAsked(true);
    startFinish(async () => {
      const done = await keeping(['reading is done', sessionId], (stamp) => readingIsDone(sessionId, stamp));
      if (done?.ok === false) setRefused(whyNotDone(done));
    });
  };
  const all = kept >= combs;
  return (
    <>
      <h2>
        So far, {kept} of {combs} combs
        {others > 0 && `, ${others} read another way`}
      </h2>
      {sums ? (
        <sums.SoFar assessment={assessment} area={area} unit={unit} />
      ) : (
        <p className="soft mb-0">Adding up …</p>
      )}
      {sums && assessment && !assessment.axis && (
        <sums.NextToRead {...{ assessment, observations, stations, area, here, unit, onGo }} />
      )}
      {asked && far !== null && (
        <div className="notice mt-3 mb-0" role="alert">
          {far} Is the sheet before you <strong>{sheetLabel}</strong>? If so, press once more. If not,{' '}
          <Link href="/calibrate">choose its session</Link>.
        </div>
      )}
      <Button
        ref={button}
        variant={all ? 'main' : 'plain'}
        className="w-100 mt-3"
        disabled={assessment === null || finishing || unsaved > 0}
        onClick={finish}
      >
        {all ? 'See what it says' : 'See what these say'}
      </Button>
      {refused && <span className="field-error">{refused}</span>}
    </>
  );
}
