import { redirect } from 'next/navigation';

import { sessionAt } from '@/features/calibrate/loadSession';

/** A session's own address leads to the step it is at. */
export default async function SessionPage({ params }: { params: Promise<{ id: string }> }) {
  const session = await sessionAt((await params).id, 'print');
  redirect(`/calibrate/${session.id}/${session.stage}`);
}
