import { setupsForScript } from '@/server/api/scriptSetups';
import { guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';

export const dynamic = 'force-dynamic';

/** GET /api/setups: see docs/api.md. */
export const GET = guarded('setups', async () =>
  Response.json({ setups: await setupsForScript(requestDeps()) }),
);
