import pino from 'pino';

/**
 * The server's own log, a JSON object a line: into the file RED_PLUMB_LOG, or to the error output. It holds what
 * happened and why, never what somebody typed.
 */
/** An error with its causes, without the values of a query: they are what somebody typed. */
function toldError(error: unknown): unknown {
  if (!(error instanceof Error)) return typeof error;
  const plain = (text: string | undefined): string => (text ?? '').split('\nparams:')[0]!;
  const { code } = error as { code?: unknown };
  return {
    type: error.name,
    code,
    message: plain(error.message),
    stack: plain(error.stack),
    ...(error.cause === undefined ? {} : { cause: toldError(error.cause) }),
  };
}

/** What is held back while it cannot be written. */
const MOST_HELD_BYTES = 1024 * 1024;
const destination = pino.destination({
  dest: process.env.RED_PLUMB_LOG ?? 2,
  sync: true,
  mkdir: true,
  maxLength: MOST_HELD_BYTES,
});
// A log that cannot be written, on a full disk, keeps nobody from anything.
destination.on('error', () => undefined);

export const log = pino(
  {
    base: undefined,
    serializers: { err: (error: unknown) => toldError(error) },
    timestamp: pino.stdTimeFunctions.isoTime,
    level: process.env.RED_PLUMB_LOG_LEVEL ?? (process.env.NODE_ENV === 'test' ? 'silent' : 'info'),
  },
  destination,
);
