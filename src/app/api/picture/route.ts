import { pictureForScript } from '@/server/api/scriptSheetJobs';
import { guarded } from '@/server/base/apiError';

export const dynamic = 'force-dynamic';

/** POST /api/picture: see docs/api.md. */
export const POST = guarded('picture', pictureForScript);
