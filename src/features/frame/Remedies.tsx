'use client';

import { usePathname } from 'next/navigation';
import { useEffect, useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import { remediesInOrder, type RemedyToTry } from '@/core/diagnosis/remedies';
import { keeping, newNumber, whyNotDone } from '@/features/forms/keeping';

import { forgetTried, keepTried, lookUpRemedies } from './actions';

/** “helped 2 of 3 times”, “about 4 min”. */
export const recordWords = ({ worked, tried, minutes }: RemedyToTry): string =>
  [
    `about ${minutes} min`,
    ...(tried > 0 ? [`helped ${worked} of ${tried} ${tried === 1 ? 'time' : 'times'} in this shop`] : []),
  ].join(', ');

/** What to try when a mark will not read, in the order of the shop’s own record; one tap says whether it helped. */
export function Remedies() {
  const path = usePathname();
  const [setupId, setSetupId] = useState<string | null>(/^\/setups\/([0-9a-f-]{36})/.exec(path)?.[1] ?? null);
  const [setups, setSetups] = useState<readonly { readonly id: string; readonly words: string }[]>([]);
  // The order of before any record stands until the shop's own is there.
  const [order, setOrder] = useState<readonly RemedyToTry[]>(() => remediesInOrder([]));
  const [said, setSaid] = useState<{ readonly words: string; readonly triedId: string | null } | null>(null);
  const [pending, start] = useTransition();
  useEffect(() => {
    let current = true;
    lookUpRemedies({ setupId }).then(
      (found) => {
        if (!current || !found.ok) return;
        setSetups(found.value.setups);
        setOrder(found.value.order);
      },
      // Without an answer the usual order is better than none.
      () => undefined,
    );
    return () => {
      current = false;
    };
  }, [setupId]);
  const note = (remedy: RemedyToTry, worked: boolean): void =>
    start(async () => {
      if (setupId === null) return setSaid({ words: 'Say first which rig and medium it is.', triedId: null });
      const given = { setupId, remedy: remedy.id, worked };
      const done = await keeping(['remedy', given], (stamp) => keepTried(given, stamp));
      setSaid(
        done.ok
          ? {
              words: `${remedy.title}: ${worked ? 'kept. It comes earlier here the next time.' : 'kept. Try the next.'}`,
              triedId: done.value.triedId,
            }
          : { words: whyNotDone(done), triedId: null },
      );
    });
  const takeBack = (triedId: string): void =>
    start(async () => {
      const done = await forgetTried(triedId, { request: newNumber() });
      setSaid({ words: done.ok ? 'Taken back.' : whyNotDone(done), triedId: null });
    });
  return (
    <>
      <FormLabel htmlFor="mark-setup">On</FormLabel>
      <FormSelect
        id="mark-setup"
        className="mb-2"
        value={setupId ?? ''}
        onChange={(event) => setSetupId(event.target.value || null)}
      >
        <option value="">any rig: the order of the whole shop</option>
        {setups.map((s) => (
          <option key={s.id} value={s.id}>
            {s.words}
          </option>
        ))}
      </FormSelect>
      <p role="status" className={said ? 'notice d-flex gap-2 align-items-center' : 'visually-hidden'}>
        {said?.words}
        {said?.triedId && (
          <Button variant="plain" disabled={pending} onClick={() => takeBack(said.triedId!)}>
            Take it back
          </Button>
        )}
      </p>
      <ol className="ps-3">
        {order.map((remedy) => (
          <li key={remedy.id} className="mb-3">
            <strong>{remedy.title}.</strong> {remedy.detail}
            <span className="d-flex gap-2 align-items-center mt-1">
              <Button
                variant="plain"
                className="text-nowrap"
                disabled={pending}
                aria-label={`${remedy.title}: it helped`}
                onClick={() => note(remedy, true)}
              >
                It helped
              </Button>
              <Button
                variant="plain"
                className="text-nowrap"
                disabled={pending}
                aria-label={`${remedy.title}: it did not help`}
                onClick={() => note(remedy, false)}
              >
                No
              </Button>
              <span className="small-print">{recordWords(remedy)}</span>
            </span>
          </li>
        ))}
      </ol>
      <p>
        <strong>It reads again?</strong> Prove it on this medium before the job: a reading fault is no
        calibration fault, and a new offset does not cure it.
      </p>
    </>
  );
}
