import { heavy } from '@/server/heavy/pool';
import { jsonRoute } from '@/server/api/scriptRequest';
import { nextRequestSchema } from '@/server/api/scriptRoll';

export const dynamic = 'force-dynamic';

/** POST /api/run/next: see docs/api.md. */
export const POST = jsonRoute(nextRequestSchema, (body) => heavy('next', body));
