import { heavy } from '@/server/heavy/pool';
import { jsonRoute } from '@/server/scriptRequest';
import { driftRequestSchema } from '@/server/scriptRoll';

export const dynamic = 'force-dynamic';

/** POST /api/drift: see docs/api.md. */
export const POST = jsonRoute(driftRequestSchema, (body) => heavy('drift', body));
