import { notFound, redirect } from 'next/navigation';

import { requestDeps } from '@/server/base/context';
import { sessionOfSheet } from '@/server/logbook/logbook';

/** Where a sheet's QR code points: the session that the sheet belongs to. */
export default async function SheetPage({ params }: { params: Promise<{ number: string }> }) {
  const number = (await params).number;
  const sessionId = /^\d{1,9}$/.test(number) ? await sessionOfSheet(requestDeps(), Number(number)) : null;
  if (!sessionId) notFound();
  redirect(`/calibrate/${sessionId}`);
}
