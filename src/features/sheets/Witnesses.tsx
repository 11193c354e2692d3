import Link from 'next/link';

import { lengthText, type LengthUnit } from '@/core/units';
import type { SheetJob } from '@/server/sheetJobs/job';
import type { WitnessRead } from '@/server/sheetJobs/witness';
import { StateTag } from '@/ui/StateTag';
import { Word } from '@/ui/words/Word';

import { ReadWitness } from './JobActs';

/** The stations in the job's waste: each sheet that was cut can be read, of the newest cut file or of the one it was cut with. */
export function Witnesses({
  job,
  read,
  unit,
}: {
  job: SheetJob;
  read: readonly WitnessRead[];
  unit: LengthUnit;
}) {
  // What was cut for a scaled print says nothing of the setup; the first cut file is never one of those.
  const newest = job.cuts.findLast((c) => c.printScale === undefined)!.revision;
  const sheets = job.geometry.sheets.flatMap((_, sheet) => (job.geometry.witness?.[sheet] ? [sheet] : []));
  const unread = sheets.filter((sheet) => !read.some((w) => w.sheet === sheet && w.revision === newest));
  const name = (sheet: number): string =>
    job.geometry.sheets.length > 1 ? `sheet ${sheet + 1}` : 'the sheet';
  return (
    <section className="panel">
      <h2>
        Its <Word of="witness" />
      </h2>
      <p>
        A station in the waste, printed and cut with the job. Read it like any comb: it is kept as a quick
        check of this setup, at no cost.
      </p>
      {read.length > 0 && (
        <ul className="ps-3">
          {read.map((w) => (
            <li key={w.sessionId}>
              <Link href={w.open ? `/calibrate/${w.sessionId}` : `/logbook/${w.sessionId}`}>
                {name(w.sheet)}, cut {w.revision}
              </Link>
              :{' '}
              {w.r95Mm === null ? (
                w.open ? (
                  'being read'
                ) : (
                  'not read'
                )
              ) : (
                <>
                  <StateTag state={w.outcome} /> within {lengthText(w.r95Mm, unit)} there
                </>
              )}
            </li>
          ))}
        </ul>
      )}
      <div className="d-flex gap-2 flex-wrap">
        {unread.slice(0, MOST_OFFERED).map((sheet) => (
          <ReadWitness
            key={sheet}
            job={{ id: job.id, version: job.version }}
            revision={newest}
            sheet={sheet}
            words={`Read the witness of ${name(sheet)}`}
          />
        ))}
      </div>
    </section>
  );
}

/** So many sheets are offered to be read at once; the others come up as these are read. */
const MOST_OFFERED = 3;
