'use client';

import Link from 'next/link';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import { changedOver } from '@/features/forms/acts/actions';
import { PendingButton } from '@/ui/PendingButton';

import { mustShowWords, type DeskSetup } from './correct.view';

/** What the machine has to show while these files are cut; where the log knows otherwise, it is asked. */
export function MachineShows({ setup }: { setup: DeskSetup }) {
  const wrong = setup.show.filter((s) => s.instead !== null);
  const confirm = async (): Promise<string | undefined> => {
    const wanted = Object.fromEntries(setup.show.map((s) => [s.id, s.wanted]));
    const input = { setupId: setup.id, wanted, found: {} };
    const done = await keeping(['change over', input], (stamp) => changedOver(input, stamp));
    return done.ok ? undefined : whyNotDone(done);
  };
  if (setup.show.length === 0) return null;
  return (
    <section
      className={wrong.length > 0 ? 'panel panel-stop' : 'panel'}
      aria-label="What the machine must show"
    >
      <h2>{wrong.length > 0 ? 'Before you cut' : 'The machine shows it'}</h2>
      <p className={wrong.length > 0 ? undefined : 'mb-0'}>
        {mustShowWords(setup.show)}
        {wrong.length > 0 && (
          <>
            {' '}
            <strong>
              As far as the log knows it shows {wrong.map((s) => `${s.name} ${s.instead}`).join(' and ')}.
            </strong>
          </>
        )}
      </p>
      {wrong.length > 0 && (
        <div className="d-flex gap-2 flex-wrap align-items-center">
          <Link className="btn btn-main" href={`/setups/${setup.id}/change-over`}>
            Change over
          </Link>
          <PendingButton words="It shows them now" onPress={confirm} />
        </div>
      )}
    </section>
  );
}
