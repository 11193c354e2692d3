import { notFound, redirect } from 'next/navigation';

import { requestDeps } from '@/server/base/context';
import { jobOfNumber } from '@/server/sheetJobs/repository';

/** Where a job's code points: the job itself. */
export default async function JobNumberPage({ params }: { params: Promise<{ number: string }> }) {
  const { number } = await params;
  const jobId = /^\d{1,9}$/.test(number) ? await jobOfNumber(requestDeps(), Number(number)) : null;
  if (!jobId) notFound();
  redirect(`/jobs/sheets/${jobId}`);
}
