import { jsonRoute } from '@/server/api/scriptRequest';
import { gapsForScript, gapsRequestSchema } from '@/server/api/scriptSchools';

export const dynamic = 'force-dynamic';

/** POST /api/readings/gaps: see docs/api.md. */
export const POST = jsonRoute(gapsRequestSchema, gapsForScript);
