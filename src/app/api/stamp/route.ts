import { guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';
import { shopStamp } from '@/server/logbook/shopStamp';

export const dynamic = 'force-dynamic';

/** GET: moves when anything is kept in the shop. */
export const GET = guarded('shop stamp', async () =>
  Response.json({ stamp: await shopStamp(requestDeps()) }, { headers: { 'Cache-Control': 'no-store' } }),
);
