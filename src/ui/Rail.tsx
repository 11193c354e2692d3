'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { useEffect, useRef, type ReactNode } from 'react';

import { BOB_PATH } from './pictures/PlumbGlyph';
import { useLeftOut } from './railSteps';

const SESSION_STEPS = { print: 'Print', read: 'Read', correct: 'Correct', prove: 'Prove' };
const RUN_STEPS = { new: 'Plan', release: 'Release', run: 'Follow', summary: 'Sum up' };

/** Places under Jobs that are no run. */
const TOOLS = ['sheets', 'outline', 'check'];

interface Knot {
  readonly key: string;
  readonly words: string;
  readonly href: string | null;
  readonly sub: boolean;
  readonly current: boolean;
}

/** Places in the order of work; the steps of a calibration show while one is open on the screen. */
function knots(path: string): Knot[] {
  const [, place = '', session, step] = path.split('/');
  const inSession = place === 'calibrate' && session !== undefined;
  const inRun = place === 'jobs' && session !== undefined && !TOOLS.includes(session);
  const onBench = place === '' || place === 'rigs' || place === 'setups' || place === 'correct';
  const steps = (words: Readonly<Record<string, string>>, at: string | undefined): Knot[] =>
    Object.entries(words).map(([name, word]) => ({
      key: name,
      words: word,
      href: null,
      sub: true,
      current: at === name,
    }));
  return [
    { key: 'bench', words: 'Bench', href: '/', sub: false, current: onBench },
    {
      key: 'calibrate',
      words: 'Calibrate',
      href: '/calibrate',
      sub: false,
      current: place === 'calibrate' && !inSession,
    },
    ...(inSession ? steps(SESSION_STEPS, step) : []),
    { key: 'jobs', words: 'Jobs', href: '/jobs', sub: false, current: place === 'jobs' && !inRun },
    ...(inRun ? steps(RUN_STEPS, step ?? session) : []),
    { key: 'logbook', words: 'Logbook', href: '/logbook', sub: false, current: place === 'logbook' },
  ];
}

const FIRST_Y = 58;
const PLACE_PX = 44;
const SUB_PX = 30;

/** On another page the keyboard begins at its work, not at the rail. */
function useWorkFirst(path: string): void {
  const before = useRef(path);
  useEffect(() => {
    if (before.current === path) return;
    before.current = path;
    if (document.activeElement === document.body)
      document.getElementById('work')?.focus({ preventScroll: true });
  }, [path]);
}

/** A red line from top to bottom; the places hang on it, and the bob rests at the current one. */
export function Rail({
  help,
}: {
  /** What stands at its foot, reachable from everywhere. */
  help: ReactNode;
}) {
  const path = usePathname();
  useWorkFirst(path);
  const leftOut = useLeftOut();
  const list = knots(path).filter((k) => !leftOut.includes(k.key));
  const heights = list.map((k) => (k.sub ? SUB_PX : PLACE_PX));
  const middles = heights.map((h, i) => FIRST_Y + heights.slice(0, i).reduce((a, b) => a + b, 0) + h / 2);
  const at = Math.max(
    0,
    list.findIndex((k) => k.current),
  );
  const bobY = middles[at]! - 16;
  const places = useRef<HTMLUListElement>(null);
  // On a phone the places are one line that scrolls: where one is comes into sight.
  useEffect(() => {
    const here = places.current?.querySelector('[aria-current]');
    here?.scrollIntoView?.({ inline: 'nearest', block: 'nearest' });
  }, [at]);
  return (
    <nav className="rail no-print" aria-label="Places">
      <svg className="rail-track" aria-hidden="true">
        <path d="M14 8V2000" stroke="var(--rp-ink-soft)" strokeDasharray="1.5 5" opacity="0.6" />
        {list.map((knot, i) => (
          <path
            key={knot.key}
            d={knot.sub ? 'M11 0h6' : 'M8 0h12'}
            transform={`translate(0 ${middles[i]})`}
            stroke="var(--rp-ink)"
            strokeWidth="1.5"
          />
        ))}
        <path d={`M14 6V${bobY + 2}`} stroke="var(--rp-plumb)" strokeWidth="2" />
        <circle cx="14" cy="6" r="4" fill="var(--rp-bench)" stroke="var(--rp-ink)" strokeWidth="1.5" />
        <path className="bob" d={BOB_PATH} transform={`translate(14 ${bobY})`} fill="var(--rp-plumb)" />
      </svg>
      <Link href="/" className="rail-name">
        Red Plumb
      </Link>
      <ul className="rail-places" ref={places}>
        {list.map((knot) => (
          <li key={knot.key} className={knot.sub ? 'sub' : undefined}>
            {knot.href === null ? (
              <span
                className={knot.current ? undefined : 'quiet'}
                aria-current={knot.current ? 'step' : undefined}
              >
                {knot.words}
              </span>
            ) : (
              <Link href={knot.href} aria-current={knot.current ? 'page' : undefined}>
                {knot.words}
              </Link>
            )}
          </li>
        ))}
      </ul>
      <div className="rail-foot">{help}</div>
    </nav>
  );
}
