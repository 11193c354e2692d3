'use client';

import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';

import { lengthText, type LengthUnit } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { keepOther } from '../actions';

/** The quick question before anything is read: are the rings even? Where they are, no comb has to be read. */
export function EvenFirst({
  passId,
  stations,
  withinMm,
  unit,
}: {
  passId: string;
  stations: number;
  /** What still looks even, mm. */
  withinMm: number;
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const [hidden, setHidden] = useState(false);
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  if (hidden) return null;
  const yes = (): void =>
    start(async () => {
      const done = await keeping(['even', passId], (stamp) => keepOther({ way: 'even', passId }, stamp));
      if (!done.ok) setSaid(whyNotDone(done));
    });
  return (
    <section className="panel mb-3 d-flex flex-wrap gap-3 align-items-center" aria-label="A quick look first">
      <p className="mb-0 flex-grow-1">
        <strong>
          {stations === 1
            ? 'Weed the disc. Is its ring even all round?'
            : `Weed the ${stations} discs. Is every ring even all round?`}
        </strong>
        <br />
        <span className="small-print">
          Then nothing is off by over {lengthText(withinMm, unit)}: no comb has to be read.
        </span>
      </p>
      <span className="d-flex gap-2">
        <Button variant="plain" disabled={!ready || pending} onClick={yes}>
          Even all round
        </Button>
        <Button variant="plain" disabled={!ready || pending} onClick={() => setHidden(true)}>
          Read the combs
        </Button>
      </span>
      {said && <span className="field-error">{said}</span>}
    </section>
  );
}
