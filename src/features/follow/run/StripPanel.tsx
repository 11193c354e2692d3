'use client';

import Link from 'next/link';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';

import { putStrip } from '../actions';

/** The witness strip of a run: put in while nothing is cut, printed with each section, read like any comb. */
export function StripPanel({
  runId,
  on,
  open,
  why,
  section,
}: {
  runId: string;
  on: boolean;
  /** It can still be put in or left out. */
  open: boolean;
  /** Why there is no room for one; null where there is. */
  why: string | null;
  /** The section that was cut last; null before. */
  section: number | null;
}) {
  const press = async (put: boolean): Promise<string | undefined> => {
    const done = await keeping(['strip', runId, put], (stamp) => putStrip({ runId, on: put }, stamp));
    return done.ok ? undefined : whyNotDone(done);
  };
  if (!on && !open) return null;
  return (
    <details className="panel working" open={on}>
      <summary>Witness strip</summary>
      {on ? (
        <>
          <p>
            Beside the rows stand witnesses: lay this over the art, each page at its section’s leading mark.
            The cut files hold their lines.
          </p>
          <div className="d-flex flex-wrap gap-2">
            <a className="btn btn-plain" href={`/api/runs/${runId}/witness/strip.pdf`}>
              To print, a page a section, PDF
            </a>
            {section !== null && (
              <Link className="btn btn-plain" href={`/jobs/${runId}/run/witness?section=${section}`}>
                Read the witnesses of section {section}
              </Link>
            )}
            {open && <PendingButton words="Leave it out" onPress={() => press(false)} />}
          </div>
        </>
      ) : why ? (
        <p className="mb-0">{why}</p>
      ) : (
        <>
          <p>
            A strip of combs in the waste beside the rows, printed and cut with every section: checks are then
            read by comb, to a few hundredths, without measuring an item.
          </p>
          <PendingButton words="Put it in" onPress={() => press(true)} />
        </>
      )}
    </details>
  );
}
