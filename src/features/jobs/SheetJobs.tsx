import Link from 'next/link';
import type { ReactNode } from 'react';

import { dateText } from '@/clock/dates';
import type { JobStage, SheetJobRow } from '@/server/sheetJobs/job';
import { Rows } from '@/ui/Rows';

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
      <Rows label="Sheet jobs">
        <thead>
          <tr>
            <th scope="col">job</th>
            <th scope="col">rig, media</th>
            <th scope="col">started</th>
            <th scope="col">stands at</th>
            <th scope="col" className="num">
              pieces
            </th>
            <th scope="col" className="num">
              sheets
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.id}>
              <th scope="row">
                <Link href={`/jobs/sheets/${r.id}`}>
                  {r.label} {r.name}
                </Link>
              </th>
              <td>
                {r.rig}, {r.media}
              </td>
              <td>
                {dateText(r.startedAt, 'd MMM yyyy')}, {r.startedBy}
              </td>
              <td>{r.discarded ? 'thrown away' : SHEET_STAGE_WORDS[r.stage]}</td>
              <td className="num">{r.copies}</td>
              <td className="num">{r.sheets}</td>
            </tr>
          ))}
        </tbody>
      </Rows>
      {children}
    </section>
  );
}
