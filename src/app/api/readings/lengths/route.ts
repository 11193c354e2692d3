import { jsonRoute } from '@/server/api/scriptRequest';
import { lengthsForScript, lengthsRequestSchema } from '@/server/api/scriptSchools';

export const dynamic = 'force-dynamic';

/** POST /api/readings/lengths: see docs/api.md. */
export const POST = jsonRoute(lengthsRequestSchema, lengthsForScript);
