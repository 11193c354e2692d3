import { SCRIPT_WAYS } from '@/core/readings/registry';
import { apiError } from '@/server/base/apiError';

import { jsonRoute } from './scriptRequest';

/** POST /api/readings/<way>: answers a script by a way of this name; shapes in docs/api.md. */
export function readBy(name: string, request: Request): Promise<Response> {
  const script = SCRIPT_WAYS.find((w) => w.name === name)?.script;
  if (!script) {
    const names = SCRIPT_WAYS.map((w) => `“${w.name}”`).join(', ');
    return Promise.resolve(apiError(404, 'no-such-way', `Readings are worked out by ${names}.`));
  }
  return jsonRoute(script.request, (given) => {
    const read = script.answer(given);
    return read.ok ? read.value : apiError(422, read.refusal.code, read.refusal.message, read.refusal.field);
  })(request);
}
