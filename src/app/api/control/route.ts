import { controlForScript, controlRequestSchema } from '@/server/api/scriptControl';
import { jsonRoute } from '@/server/api/scriptRequest';

export const dynamic = 'force-dynamic';

/** POST /api/control: see docs/api.md. */
export const POST = jsonRoute(controlRequestSchema, controlForScript);
