import { sql } from 'drizzle-orm';

import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';
import { diskFullWords } from '@/server/base/disk';

export const dynamic = 'force-dynamic';

/** GET: says that the server can do its work: it asks the database. 503 while that does not answer or has no room. */
export const GET = guarded('ready', async () => {
  const full = diskFullWords();
  if (full !== null) return apiError(503, 'disk-full', `Nothing can be saved: ${full}`);
  await requestDeps().db.execute(sql`select 1`);
  return Response.json({ ok: true }, { headers: { 'Cache-Control': 'no-store' } });
});
