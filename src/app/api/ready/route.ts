import { sql } from 'drizzle-orm';

import { guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';

export const dynamic = 'force-dynamic';

/** GET: says that the server can do its work: it asks the database. 503 while that does not answer. */
export const GET = guarded('ready', async () => {
  await requestDeps().db.execute(sql`select 1`);
  return Response.json({ ok: true }, { headers: { 'Cache-Control': 'no-store' } });
});
