'use client';

import Button from 'react-bootstrap/Button';

import type { Finding } from '@/core/artwork/checks';
import type { LengthUnit } from '@/core/units';

import { useDraft } from './DraftWork';
import { mendOf } from './mends';

/** What would go wrong, with what one press mends. */
export function Findings({
  findings,
  notLooked,
  neededMm,
  nearestMm,
  unit,
}: {
  findings: readonly (Pick<Finding, 'code' | 'severity' | 'message' | 'fix'> & { readonly times: number })[];
  /** Pieces whose pictures could not be looked at. */
  notLooked: readonly string[];
  neededMm: number | null;
  nearestMm: number;
  unit: LengthUnit;
}) {
  const { laid, pending, change } = useDraft();
  return (
    <section className="panel">
      <h2>Before it is printed</h2>
      <ul className="mb-0">
        {findings.map(({ code, severity, message, fix, times }) => {
          const mend = mendOf(code, laid, { neededMm, nearestMm }, unit);
          return (
            <li key={message} className="mb-2">
              {severity === 'stop' && <strong>Stop: </strong>}
              {message} {fix} {times > 1 && <span className="soft">({times} places)</span>}
              {mend && (
                <Button
                  variant="plain"
                  className="btn-small d-block mt-1"
                  disabled={pending}
                  onClick={() => change(mend.laid)}
                >
                  {mend.words}
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {notLooked.length > 0 && (
        <p className="notice mt-2 mb-0">
          The picture of {notLooked.join(', ')} could not be read: its colour was not looked at.
        </p>
      )}
    </section>
  );
}
