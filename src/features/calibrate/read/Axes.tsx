'use client';

import Link from 'next/link';

import type { OffsetAxis } from '@/core/units';

const AXES = [
  [null, 'Both axes'],
  ['across', 'Across only'],
  ['along', 'Along the feed only'],
] as const;

/** One axis can be read, typed and proved by itself. The keys go on to the combs once it is chosen. */
export function Axes({ sessionId, only }: { sessionId: string; only: OffsetAxis | null }) {
  return (
    <nav aria-label="Axes to read" className="d-flex flex-wrap align-items-center gap-2 mt-3">
      <span className="small-print">Combs to read:</span>
      {AXES.map(([axis, words]) => (
        <Link
          key={words}
          className={`btn btn-plain btn-small${axis === only ? ' active' : ''}`}
          aria-current={axis === only ? 'true' : undefined}
          href={`/calibrate/${sessionId}/read${axis ? `?axis=${axis}` : ''}`}
          onClick={(event) => event.currentTarget.blur()}
        >
          {words}
        </Link>
      ))}
    </nav>
  );
}
