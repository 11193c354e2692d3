import { jsonRoute } from '@/server/api/scriptRequest';
import { registrationForScript, registrationRequestSchema } from '@/server/api/scriptRegistration';

export const dynamic = 'force-dynamic';

/** POST /api/registration: see docs/api.md. */
export const POST = jsonRoute(registrationRequestSchema, registrationForScript);
