import { stampRoute } from '@/server/base/stampRoute';
import { sessionStamp } from '@/server/sessions/loadSession';

export const dynamic = 'force-dynamic';

/** GET: moves when somebody keeps something in the session; open pages ask for it and look again. */
export const GET = stampRoute('session', sessionStamp);
