import { guarded } from '@/server/base/apiError';
import { exportStream } from '@/server/exports/exportStream';

export const dynamic = 'force-dynamic';

/** GET: the whole shop as one archive; `npm run restore` makes a shop of it again. */
export const GET = guarded('shop archive', async () => {
  const now = new Date();
  return new Response(await exportStream('shop'), {
    headers: {
      'Content-Type': 'application/gzip',
      'Content-Disposition': `attachment; filename="red-plumb-shop-${now.toISOString().slice(0, 10)}.ndjson.gz"`,
    },
  });
});
