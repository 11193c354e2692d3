import { apiError } from '@/server/apiError';
import { jsonRoute } from '@/server/scriptRequest';
import { planForScript, planRequestSchema } from '@/server/scriptRoll';

export const dynamic = 'force-dynamic';

/** POST /api/plan/roll: see docs/api.md. */
export const POST = jsonRoute(planRequestSchema, (body) => {
  const planned = planForScript(body);
  return planned.ok ? planned.value : apiError(400, planned.refusal.code, planned.refusal.message);
});
