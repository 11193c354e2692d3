import { type ActionResult, type BrowserStamp, keeping, whyNotDone } from '@/features/forms/keeping';

/** Does it, and resolves with what went wrong. `what` names it with all that it keeps. */
export const saying = async (
  what: readonly unknown[],
  act: (stamp: BrowserStamp) => Promise<ActionResult<unknown>>,
  version?: number,
): Promise<string | undefined> => {
  const done = await keeping(what, act, version);
  return done?.ok === false ? whyNotDone(done) : undefined;
};
