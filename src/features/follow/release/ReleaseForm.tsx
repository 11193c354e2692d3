'use client';

import FormCheckInput from 'react-bootstrap/FormCheckInput';
import type { ReactNode } from 'react';

import { PendingButton } from '@/ui/PendingButton';
import { useSessionState } from '@/ui/useSessionState';
import { useHydrated } from '@/ui/useHydrated';

import { keeping } from '@/features/forms/keeping';
import { whyNot } from '@/features/forms/acts/AskShown';

import { releaseIt } from '../actions';

const NOTHING_TICKED: readonly string[] = [];

/** Every point is ticked by who looked; then the run may be sent. */
export function ReleaseForm({
  runId,
  version,
  items,
}: {
  runId: string;
  version: number;
  items: readonly { readonly key: string; readonly words: string }[];
}) {
  // Change over leads away and back: what was ticked stays.
  const [ticked, setTicked] = useSessionState<readonly string[]>(`release-${runId}`, NOTHING_TICKED);
  const ready = useHydrated();
  const press = async (again: () => void): Promise<ReactNode> => {
    const done = await keeping(
      ['release', runId, ticked],
      (stamp) => releaseIt({ runId, ticked: [...ticked] }, stamp),
      version,
    );
    return whyNot(done, again);
  };
  return (
    <section className="panel">
      <h2>Release card</h2>
      <fieldset disabled={!ready} className="mb-3">
        <legend className="visually-hidden">Look, then tick</legend>
        {items.map((item) => (
          <div key={item.key} className="d-flex gap-2 align-items-start py-2">
            <FormCheckInput
              id={`release-${item.key}`}
              type="checkbox"
              className="mt-1 flex-shrink-0"
              checked={ticked.includes(item.key)}
              onChange={(event) =>
                setTicked(event.target.checked ? [...ticked, item.key] : ticked.filter((k) => k !== item.key))
              }
            />
            <label htmlFor={`release-${item.key}`}>{item.words}</label>
          </div>
        ))}
      </fieldset>
      <PendingButton words="Release the run" main wide onPress={press} />
    </section>
  );
}
