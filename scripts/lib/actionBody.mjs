// What our own pages send when something is kept: a list of plain values. Whatever else comes under an action's number is
// answered here; the framework would take it for a bug of ours.

/** As `bodySizeLimit` in next.config.ts. */
const MOST_BYTES = 4 * 1024 * 1024;
const MOST_DEPTH = 60;
/** How React writes what JSON has no word for; anything else with a dollar refers to parts that our pages never send. */
const SOUND_WORD = /^\$(?:\$|undefined$|NaN$|-?Infinity$|-0$|D|n)/;

const JUNK = [400, 'not-an-action', 'This is not what a page of this application sends.'];

/** Whether a request calls an action. */
export const callsAction = ({ method, headers }) => method === 'POST' && headers['next-action'] !== undefined;

/**
 * Reads what an action is called with and puts it back, so that the application reads it again. Gives status, code and message
 * where it cannot be meant, else null.
 */
export async function refusedAction(request) {
  const { headers } = request;
  if (!/^text\/plain\b/i.test(headers['content-type'] ?? '')) return JUNK;
  // The framework passes an action on to the page that has it, in pieces; as it came in it was looked at already.
  if (headers['content-length'] === undefined && headers['x-action-forwarded'] !== undefined) return null;
  const length = Number(headers['content-length'] ?? NaN);
  if (!(length > 0)) return JUNK;
  if (length > MOST_BYTES)
    return [413, 'too-large', `At most ${MOST_BYTES / 1024 / 1024} MB are taken at once.`];
  const body = await lookedAt(request, length);
  return body !== null && sound(body.toString('utf8')) ? null : JUNK;
}

/** The body, which stays to be read; null when it breaks off. */
function lookedAt(request, length) {
  return new Promise((done) => {
    const chunks = [];
    let got = 0;
    const end = (body) => {
      request.off('readable', look);
      request.off('close', gone);
      // The stream forgets that it was looked at on the next tick.
      setImmediate(() => done(body));
    };
    const gone = () => end(null);
    const look = () => {
      for (let chunk = request.read(); chunk !== null; chunk = request.read()) {
        chunks.push(chunk);
        got += chunk.length;
        if (got < length) continue;
        const body = Buffer.concat(chunks);
        request.unshift(body);
        return end(body);
      }
    };
    request.on('readable', look);
    request.once('close', gone);
    look();
  });
}

/** A list of values that are no deeper than any of ours. */
export function sound(text) {
  try {
    const list = JSON.parse(text);
    return Array.isArray(list) && shallow(list, MOST_DEPTH);
  } catch {
    return false;
  }
}

function shallow(value, left) {
  if (typeof value === 'string') return !value.startsWith('$') || SOUND_WORD.test(value);
  if (typeof value !== 'object' || value === null) return true;
  return left > 0 && Object.values(value).every((each) => shallow(each, left - 1));
}
