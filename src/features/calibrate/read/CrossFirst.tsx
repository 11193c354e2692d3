'use client';

import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';

import { COARSE_GRADUATION_MM, COARSE_REACH_MM } from '@/core/tolerance';
import { lengthText, OFFSET_AXES, signed, type LengthUnit, type OffsetAxis } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { keepOther } from '../actions';
import { CoarsePicture } from './CoarsePicture';

const AXIS_WORDS: Readonly<Record<OffsetAxis, string>> = { across: 'across', along: 'along the feed' };
const STEPS = [
  [-1, '−'],
  [1, '+'],
] as const;

/** Before the rings of a rig that nobody has measured: the coarse cross says whether they reach at all. */
export function CrossFirst({
  passId,
  stationId,
  reachMm,
  onNear,
  unit,
}: {
  passId: string;
  stationId: string;
  /** How far the rings reach. */
  reachMm: number;
  /** They reach: on to the rings. */
  onNear: () => void;
  unit: LengthUnit;
}) {
  const [at, setAt] = useState<Readonly<Record<OffsetAxis, number>>>({ across: 0, along: 0 });
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const ready = useHydrated();
  const far = OFFSET_AXES.some((axis) => Math.abs(at[axis]) > reachMm);
  const on = (): void => {
    if (!far) return onNear();
    start(async () => {
      const given = { way: 'cross', passId, stationId, ...at } as const;
      const done = await keeping(['cross', given], (stamp) => keepOther(given, stamp));
      setSaid(
        done.ok
          ? [
              `Kept. The rings reach ${lengthText(reachMm, unit)}: see what this says, correct by it, and read the next set by its rings.`,
              ...done.value.doubts.map((d) => d.message),
            ].join(' ')
          : whyNotDone(done),
      );
    });
  };
  return (
    <section className="panel mb-3" aria-label="Coarse first">
      <h2>Coarse first: where does the cut cross the crosses of {stationId}?</h2>
      <fieldset disabled={!ready || pending}>
        <div className="two">
          {OFFSET_AXES.map((axis) => (
            <div key={axis}>
              <CoarsePicture
                axis={axis}
                atMm={at[axis]}
                compact
                words={`Coarse cross ${AXIS_WORDS[axis]}, cut line at ${signed(at[axis], 1)} mm`}
              />
              <div className="d-flex gap-2 align-items-center mt-1">
                {STEPS.map(([by, sign]) => (
                  <Button
                    key={sign}
                    variant="plain"
                    aria-label={`${AXIS_WORDS[axis]}: half a millimetre ${by < 0 ? 'less' : 'more'}`}
                    onClick={() =>
                      setAt({
                        ...at,
                        [axis]: Math.max(
                          -COARSE_REACH_MM,
                          Math.min(COARSE_REACH_MM, at[axis] + by * COARSE_GRADUATION_MM),
                        ),
                      })
                    }
                  >
                    {sign}
                  </Button>
                ))}
                <span className="mono">
                  {signed(at[axis], 1)} mm {AXIS_WORDS[axis]}
                </span>
              </div>
            </div>
          ))}
        </div>
        <Button variant="plain" className="mt-3" onClick={on}>
          {far ? 'Keep it: further than the rings reach' : 'On to the rings'}
        </Button>
      </fieldset>
      {said && (
        <p className="small-print mb-0 mt-2" role="status">
          {said}
        </p>
      )}
    </section>
  );
}
