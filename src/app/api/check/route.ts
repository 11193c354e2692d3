import { checkForScript } from '@/server/api/scriptCheckUpload';
import { guarded } from '@/server/base/apiError';

export const dynamic = 'force-dynamic';

/** POST /api/check: see docs/api.md. */
export const POST = guarded('check', checkForScript);
