import Link from 'next/link';

import type { Happened } from '@/server/setups/happened';
import { dateText } from '@/clock/dates';
import { EVENT_WORDS } from '@/ui/words/eventWords';

/** So many are read at a glance. */
const AT_A_GLANCE = 5;

/** What was noted of a rig, newest first. */
export function Notes({ list }: { list: readonly Happened[] }) {
  const more = list.slice(AT_A_GLANCE);
  return (
    <section className="panel">
      <h2>Notes</h2>
      {list.length === 0 ? (
        <p className="soft mb-0">
          Nothing is noted yet. What happens to it, and what is said when a run is closed, stands here.
        </p>
      ) : (
        <Entries list={list.slice(0, AT_A_GLANCE)} />
      )}
      {more.length > 0 && (
        <details className="working">
          <summary>{more.length === 1 ? 'One more before' : `${more.length} more before`}</summary>
          <Entries list={more} />
        </details>
      )}
    </section>
  );
}

function Entries({ list }: { list: readonly Happened[] }) {
  return (
    <ul className="list-unstyled mb-0">
      {list.map((h) => (
        <li key={`${h.at.getTime()} ${h.kind ?? h.run?.id}`} className="mb-2">
          {h.run ? (
            <Link href={`/jobs/${h.run.id}`}>{h.run.name}</Link>
          ) : (
            <strong>{EVENT_WORDS[h.kind ?? 'other']}</strong>
          )}
          {h.media && `, ${h.media}`}
          {h.note && `: ${h.note}`}
          <br />
          <span className="small-print">
            {dateText(h.at, 'd MMM yyyy, HH:mm')}, {h.by}
          </span>
        </li>
      ))}
    </ul>
  );
}
