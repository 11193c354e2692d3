import { traceForScript } from '@/server/api/scriptTrace';
import { guarded } from '@/server/base/apiError';

export const dynamic = 'force-dynamic';

/** POST /api/trace: see docs/api.md. */
export const POST = guarded('trace', traceForScript);
