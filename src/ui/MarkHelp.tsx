'use client';

import { CircleHelp } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import Offcanvas from 'react-bootstrap/Offcanvas';

/** Rising order of effort (common practice, no source): the cheap ones first, calibrating last. */
const REMEDIES = [
  [
    'Check the mark type',
    'The mark that was printed and the mark the cutter expects must be the same kind, size and count.',
  ],
  ['Change the light', 'Some sensors need more, most need less: shade the machine or close its lid.'],
  ['Dust the sensor', 'A dry, soft brush. Power off before you reach in.'],
  ['Smooth the media', 'Flat, no lifted corner; on a mat, square to the mat’s own lines and well stuck.'],
  ['Darken the mark', 'Go over it with a black marker.'],
  [
    'Kill the gloss',
    'Matte tape over each mark. Gloss can make a mark misread and the machine cuts all the same.',
  ],
  ['White behind the mark', 'On clear, dark or foil media the sensor needs a white ground.'],
  ['Change the sensor level', 'As the machine’s manual describes it.'],
  ['Move the marks further in', 'Near the edge they are clipped, or taken for the edge of the sheet.'],
  ['Only then calibrate', 'A reading fault is not a calibration fault: a new offset will not cure it.'],
] as const;

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
          <ol className="ps-3">
            {REMEDIES.map(([title, detail]) => (
              <li key={title} className="mb-2">
                <strong>{title}.</strong> {detail}
              </li>
            ))}
          </ol>
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
