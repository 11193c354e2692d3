import { readBy } from '@/server/api/scriptReadings';

export const dynamic = 'force-dynamic';

/** POST /api/readings/…, by any way of the registry: see docs/api.md. */
export const POST = async (request: Request, { params }: { params: Promise<{ way: string }> }) =>
  readBy((await params).way, request);
