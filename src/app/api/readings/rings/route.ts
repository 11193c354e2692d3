import { jsonRoute } from '@/server/api/scriptRequest';
import { ringsForScript, ringsRequestSchema } from '@/server/api/scriptSchools';

export const dynamic = 'force-dynamic';

/** POST /api/readings/rings: see docs/api.md. */
export const POST = jsonRoute(ringsRequestSchema, ringsForScript);
