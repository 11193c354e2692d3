import { heavy } from '@/server/heavy/pool';
import { diagnoseRequestSchema } from '@/server/api/scriptDiagnose';
import { jsonRoute } from '@/server/api/scriptRequest';

export const dynamic = 'force-dynamic';

/** POST /api/diagnose: see docs/api.md. */
export const POST = jsonRoute(diagnoseRequestSchema, (body) => heavy('diagnose', body));
