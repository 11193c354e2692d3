'use client';

import { CircleHelp } from 'lucide-react';
import Link from 'next/link';
import { lazy, Suspense, useEffect, useState } from 'react';
import Offcanvas from 'react-bootstrap/Offcanvas';

/** Comes when it is asked for: no page waits for it. */
const Remedies = lazy(() => import('./Remedies').then((m) => ({ default: m.Remedies })));

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(input|textarea|select)$/i.test(target.tagName));

/** Help for a mark that will not read, reachable from everywhere with “m”. */
export function MarkHelp() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== 'm' || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target))
        return;
      setOpen((was) => !was);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  return (
    <>
      <button type="button" onClick={() => setOpen(true)}>
        <CircleHelp size={24} className="rail-foot-icon" aria-hidden />
        <span className="rail-foot-words">A mark will not read</span>
        <span className="small-print key-hint d-block">
          press <kbd>m</kbd>
        </span>
      </button>
      <Offcanvas show={open} onHide={() => setOpen(false)} placement="end" aria-labelledby="mark-help">
        <Offcanvas.Header closeButton>
          <Offcanvas.Title id="mark-help" as="h2">
            A mark will not read: try these in order
          </Offcanvas.Title>
        </Offcanvas.Header>
        <Offcanvas.Body>
          <Suspense fallback={<p aria-busy="true">One moment.</p>}>
            <Remedies />
          </Suspense>
          <p>
            Still not?{' '}
            <Link href="/by-hand" onClick={() => setOpen(false)}>
              Drive the tool to the marks by hand
            </Link>{' '}
            and have the cut file moved to where the print lies.
          </p>
          <p className="caution">
            Do not look into the sensor’s light, and keep hands, hair and sleeves clear of moving carriages.
            The machine’s manual and trained staff come first.
          </p>
        </Offcanvas.Body>
      </Offcanvas>
    </>
  );
}
