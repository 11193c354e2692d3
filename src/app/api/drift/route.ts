import { heavy } from '@/server/heavy/pool';
import { jsonRoute } from '@/server/api/scriptRequest';
import { driftRequestSchema } from '@/server/api/scriptRoll';

export const dynamic = 'force-dynamic';

/** POST /api/drift: see docs/api.md. */
export const POST = jsonRoute(driftRequestSchema, (body) => heavy('drift', body));
