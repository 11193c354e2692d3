import { jsonRoute } from '@/server/api/scriptRequest';
import { tableForScript, tableRequestSchema } from '@/server/api/scriptSchools';

export const dynamic = 'force-dynamic';

/** POST /api/readings/table: see docs/api.md. */
export const POST = jsonRoute(tableRequestSchema, tableForScript);
