'use client';

import Link from 'next/link';

import type { LengthUnit } from '@/core/units';
import { StartButton } from '@/features/forms/acts/StartButton';
import { PlumbGlyph } from '@/ui/pictures/PlumbGlyph';
import { StateTag } from '@/ui/StateTag';

import type { SetupRowView } from './bench.view';

/*
 * Rows of the Bench. Drawn from their view by whoever shows them: the page then carries a row's words once, and a bench of
 * eighty setups is half as long.
 */

/** A setup that waits for somebody: why, how it stands, and what can be done. */
export function OpenRow({ row, unit }: { row: SetupRowView; unit: LengthUnit }) {
  return (
    <section className="setup-row" aria-label={`${row.name}, ${row.media}`} {...takes(row)}>
      {row.number === null ? (
        <span className="order" />
      ) : (
        <span className="order" aria-label={`number ${row.number}`}>
          {row.number}
        </span>
      )}
      <PlumbGlyph ratio={row.stands.ratio} size={64} label={row.glyphLabel} />
      <div>
        <h3>
          <Link href={`/setups/${row.id}`}>{row.media}</Link> <span className="soft">{row.size}</span>{' '}
          <StateTag {...row.stands} />
        </h3>
        {row.tasks.map((task) => (
          <p key={task.key} className="mb-0">
            {task.words}
          </p>
        ))}
        <p className="small-print mb-0">{row.lines.join('; ')}</p>
      </div>
      <p className="figure mb-0">
        {row.r95 !== null && (
          <>
            <span className="mono big">{row.r95}</span> <span className="mono">{unit}</span>
            <br />
          </>
        )}
        <span className="small-print">
          {row.r95 === null ? '' : 'of '}
          {row.allowed} allowed
        </span>
      </p>
      <RowActs row={row} />
    </section>
  );
}

function RowActs({ row }: { row: SetupRowView }) {
  const first = row.number === 1;
  const [task] = row.tasks;
  const links = row.tasks.filter((t) => t.href !== null);
  return (
    <div className="acts">
      {links.map((t, i) => (
        <Link key={t.key} className={`btn ${first && i === 0 ? 'btn-main' : 'btn-plain'}`} href={t.href!}>
          {t.href!.endsWith('/change-over') ? 'Change over' : 'Go on'}
        </Link>
      ))}
      {row.changeOver && !links.some((t) => t.href!.endsWith('/change-over')) && (
        <Link href={`/setups/${row.id}/change-over`} className="btn btn-plain">
          Change over
        </Link>
      )}
      {!row.calibrating && (
        <StartButton
          setupId={row.id}
          kind="calibration"
          words="Calibrate"
          main={first && task?.start === 'calibration'}
        />
      )}
      {row.checkable && (
        <StartButton
          setupId={row.id}
          kind="quick-check"
          words="Quick check"
          main={first && task?.start === 'quick-check'}
        />
      )}
      <Link href={`/correct?setup=${row.id}`} className="btn btn-plain">
        Correct a file
      </Link>
    </div>
  );
}

/** A cut file dropped on it is for it. */
const takes = (row: SetupRowView) => ({
  'data-setup': row.id,
  'data-words': `${row.media} on ${row.name}`,
});

/** Nothing waits: its glyph, its figure, and the way to its page. */
export function QuietSetup({ row }: { row: SetupRowView }) {
  return (
    <section aria-label={`${row.name}, ${row.media}`} {...takes(row)}>
      <PlumbGlyph ratio={row.stands.ratio} size={48} label={row.glyphLabel} />
      <div>
        <Link href={`/setups/${row.id}`}>{row.media}</Link>
        <br />
        <span className="small-print">
          {row.size} <strong className="mono">{row.r95}</strong> of {row.allowed}
          {row.changeOver && ' · not set up now'}
        </span>
      </div>
    </section>
  );
}
