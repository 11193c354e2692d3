import Link from 'next/link';
import type { ReactNode } from 'react';

import { dateText } from '@/clock/dates';
import type { JobStage, SheetJobRow } from '@/server/sheetJobs/job';
import { DataTable } from '@/ui/tables/DataTable';

export const SHEET_STAGE_WORDS: Readonly<Record<JobStage, string>> = {
  draft: 'to be looked at and frozen',
  frozen: 'to be printed and cut',
  closed: 'closed',
};

/** Sheet jobs, newest first. */
export function SheetJobs({
  rows,
  children,
}: {
  rows: readonly SheetJobRow[];
  /** Earlier and later pages. */
  children: ReactNode;
}) {
  if (rows.length === 0) return null;
  return (
    <section className="panel mb-3">
      <h2>Sheets</h2>
      <DataTable
        label="Sheet jobs"
        rows={rows}
        keyOf={(r) => r.id}
        columns={[
          [
            'job',
            (r) => (
              <Link href={`/jobs/sheets/${r.id}`}>
                {r.label} {r.name}
              </Link>
            ),
            'row',
          ],
          ['rig, media', (r) => `${r.rig}, ${r.media}`],
          ['started', (r) => `${dateText(r.startedAt, 'd MMM yyyy')}, ${r.startedBy}`],
          ['stands at', (r) => (r.discarded ? 'thrown away' : SHEET_STAGE_WORDS[r.stage])],
          ['pieces', (r) => r.copies, 'num'],
          ['sheets', (r) => r.sheets, 'num'],
        ]}
      />
      {children}
    </section>
  );
}
