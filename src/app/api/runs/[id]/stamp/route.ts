import { stampRoute } from '@/server/base/stampRoute';
import { runStamp } from '@/server/runs/repository';

export const dynamic = 'force-dynamic';

/** GET: moves when somebody does something on the run; open pages ask for it and look again. */
export const GET = stampRoute('run', runStamp);
