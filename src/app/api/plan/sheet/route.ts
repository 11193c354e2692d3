import { jsonRoute } from '@/server/api/scriptRequest';
import { sheetRequestSchema } from '@/server/api/scriptSheet';
import { heavy } from '@/server/heavy/pool';

export const dynamic = 'force-dynamic';

/** POST /api/plan/sheet: see docs/api.md. */
export const POST = jsonRoute(sheetRequestSchema, (body) => heavy('sheet', body));
