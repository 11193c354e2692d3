import { jsonRoute } from '@/server/scriptRequest';
import { nextForScript, nextRequestSchema } from '@/server/scriptRoll';

export const dynamic = 'force-dynamic';

/** POST /api/run/next: see docs/api.md. */
export const POST = jsonRoute(nextRequestSchema, nextForScript);
