import { apiError } from '@/server/base/apiError';
import { heavy } from '@/server/heavy/pool';
import { jsonRoute } from '@/server/api/scriptRequest';
import { planRequestSchema } from '@/core/layout/planShape';

export const dynamic = 'force-dynamic';

/** POST /api/plan/roll: see docs/api.md. */
export const POST = jsonRoute(planRequestSchema, async (body) => {
  const planned = await heavy('plan', body);
  return planned.ok ? planned.value : apiError(400, planned.refusal.code, planned.refusal.message);
});
