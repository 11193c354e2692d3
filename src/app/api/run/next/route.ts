import { heavy } from '@/server/heavy/pool';
import { jsonRoute } from '@/server/scriptRequest';
import { nextRequestSchema } from '@/server/scriptRoll';

export const dynamic = 'force-dynamic';

/** POST /api/run/next: see docs/api.md. */
export const POST = jsonRoute(nextRequestSchema, (body) => heavy('next', body));
