import { diskRoom } from '@/server/base/disk';

export const dynamic = 'force-dynamic';

/** Says that the server answers, and how much room there is; asks nothing of the database. */
export function GET(): Response {
  const disk = diskRoom();
  return Response.json({ ok: true, ...(disk && { disk }) }, { headers: { 'Cache-Control': 'no-store' } });
}
