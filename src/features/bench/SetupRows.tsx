'use client';

import { capital } from '@/core/units';
import Link from 'next/link';

import type { LengthUnit } from '@/core/units';
import { SetupAct } from '@/features/forms/acts/SetupAct';
import { MoreActs } from '@/ui/MoreActs';
import { LeftToDo } from '@/ui/pictures/LeftToDo';
import { PlumbGlyph } from '@/ui/pictures/PlumbGlyph';
import { StateTag } from '@/ui/StateTag';

import type { SetupRowView } from './bench.view';

/*
 * Rows of the Bench. Drawn from their view by whoever shows them: the page then carries a row's words once, and a bench of
 * eighty setups is half as long.
 */

/** A setup that waits for somebody: why, how it stands, and what can be done. */
export function OpenRow({ row, unit }: { row: SetupRowView; unit: LengthUnit }) {
  const parts = row.tasks.find((t) => t.parts)?.parts;
  return (
    <section
      className="setup-row"
      id={row.number === null ? undefined : `n${row.number}`}
      aria-label={`${row.name}, ${row.media}`}
      {...takes(row)}
    >
      {row.number === null ? (
        <span className="order" />
      ) : (
        <span className="order" aria-label={`number ${row.number}`}>
          {row.number}
        </span>
      )}
      <PlumbGlyph ratio={row.stands.ratio} size={64} label={row.glyphLabel} />
      <div className="what">
        <h3>
          <Link href={`/setups/${row.id}`}>{row.media}</Link>{' '}
          <span className="soft text-nowrap">{row.size}</span> <StateTag {...row.stands} />
        </h3>
        {row.tasks.map((task, i) => (
          <p key={task.key} className="mb-0">
            {i === 0 ? capital(task.why) : `${task.act}: ${task.why}`}
          </p>
        ))}
        {row.lines.length > 0 && <p className="small-print mb-0">{row.lines.join('; ')}</p>}
      </div>
      <span className="left-to-do">{parts && <LeftToDo {...parts} />}</span>
      <p className="figure mb-0">
        {row.r95 !== null && (
          <>
            <span className="mono big">{row.r95}</span> <span className="mono">{unit}</span> <br />
          </>
        )}
        <Allowed row={row} />
      </p>
      <RowActs row={row} shown={2} />
    </section>
  );
}

function Allowed({ row }: { row: SetupRowView }) {
  return (
    <span className="small-print">
      {row.r95 === null ? `${row.allowed} allowed` : `of ${row.allowed}`}
      {row.r95 !== null && row.since && `, ${row.since}`}
    </span>
  );
}

/** At most so many acts in one line, the rest behind More; of number 1 the first is the red one. */
function RowActs({ row, shown }: { row: SetupRowView; shown: number }) {
  return (
    <div className="acts">
      {row.acts.slice(0, shown).map((act, i) => (
        <SetupAct key={act.words} act={act} setupId={row.id} main={i === 0 && row.number === 1} />
      ))}
      <MoreActs of={`${row.media} on ${row.name}`}>
        {row.acts.slice(shown).map((act) => (
          <SetupAct key={act.words} act={act} setupId={row.id} main={false} />
        ))}
        <Link href={`/setups/${row.id}`} className="btn btn-plain">
          Its page
        </Link>
      </MoreActs>
    </div>
  );
}

/** A cut file dropped on it is for it. */
const takes = (row: SetupRowView) => ({
  'data-setup': row.id,
  'data-words': `${row.media} on ${row.name}`,
});

/** Nothing waits: its glyph, its figure, and what is likeliest done with it. */
export function QuietRow({ row }: { row: SetupRowView }) {
  return (
    <section className="setup-row quiet-row" aria-label={`${row.name}, ${row.media}`} {...takes(row)}>
      <span className="order" />
      <PlumbGlyph ratio={row.stands.ratio} size={48} label={row.glyphLabel} />
      <div className="what">
        <h3>
          <Link href={`/setups/${row.id}`}>{row.media}</Link>{' '}
          <span className="soft text-nowrap">{row.size}</span> <StateTag {...row.stands} />
        </h3>
        {row.lines.length > 0 && <p className="small-print mb-0">{row.lines.join('; ')}</p>}
      </div>
      <p className="figure mb-0">
        <strong className="mono">{row.r95}</strong> <Allowed row={row} />
      </p>
      <RowActs row={row} shown={row.changeOver ? 1 : 2} />
    </section>
  );
}

/** One of many that are not set up now: its glyph, its figure, and the way to its page. */
export function QuietSetup({ row }: { row: SetupRowView }) {
  return (
    <section aria-label={`${row.name}, ${row.media}`} {...takes(row)}>
      <PlumbGlyph ratio={row.stands.ratio} size={48} label={row.glyphLabel} />
      <div>
        <Link href={`/setups/${row.id}`}>{row.media}</Link>
        <br />
        <span className="small-print">
          {row.size} <strong className="mono">{row.r95}</strong> of {row.allowed}
        </span>
      </div>
    </section>
  );
}
