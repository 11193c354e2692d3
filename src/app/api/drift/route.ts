import { jsonRoute } from '@/server/scriptRequest';
import { driftForScript, driftRequestSchema } from '@/server/scriptRoll';

export const dynamic = 'force-dynamic';

/** POST /api/drift: see docs/api.md. */
export const POST = jsonRoute(driftRequestSchema, driftForScript);
