import type { BenchSetup } from '@/server/setups/bench';

import type { TaskView } from '@/features/forms/acts/nextSteps';

/** A part of the bench’s sentence. What leads to a row says its number. */
export interface AnswerPart {
  readonly text: string;
  /** The number of the row that it speaks of. */
  readonly to?: number;
  /** Left out where there is little room: it stands in the row too. */
  readonly aside?: true;
}

/** A rig by its name; where several media are on it, the medium too. */
const nameOf = (s: BenchSetup, all: readonly BenchSetup[]): string =>
  all.some((o) => o !== s && o.setup.rigId === s.setup.rigId)
    ? `${s.setup.media} on ${s.setup.name}`
    : s.setup.name;

/** The medium, where it tells them apart; else the rig too. */
const shortName = (s: BenchSetup, all: readonly BenchSetup[]): string =>
  all.some((o) => o !== s && o.setup.media === s.setup.media) ? nameOf(s, all) : s.setup.media;

/** What stands between an act and what it is done to. */
const JOINT: Readonly<Record<string, string>> = {
  Calibrate: ' ',
  'Quick check': ' of ',
  'Change over': ' to ',
};

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/**
 * What to do now and what after it, in the words of their buttons: the first is number 1, and its button is the red one.
 * `urgent` are the setups that wait with what waits first there, in the order of the page.
 */
export function benchAnswer(
  setups: readonly BenchSetup[],
  urgent: readonly { readonly of: BenchSetup; readonly task: TaskView }[],
): AnswerPart[] {
  if (setups.length === 0)
    return [{ text: 'Add the first rig: one printer, one cutter, and the media they work on.' }];
  const [first, second] = urgent;
  if (!first) return [{ text: setups.length === 1 ? 'It is plumb.' : 'Every setup is plumb.' }];
  // A run's number says where it runs.
  const named = ({ task }: typeof first, name: string): string =>
    task.kind === 'run' || task.kind === 'planned' ? '' : `${JOINT[task.act] ?? ' on '}${name}`;
  const quiet = setups.length - urgent.length;
  const more = urgent.length - 2;
  const rest =
    more > 0
      ? `; ${more} more ${more === 1 ? 'waits' : 'wait'}`
      : quiet > 0
        ? `; ${quiet === 1 ? 'the other one is' : `the other ${quiet} are`} plumb`
        : '';
  return [
    { text: first.task.act, to: 1 },
    { text: named(first, nameOf(first.of, setups)) },
    { text: `: ${first.task.why}`, aside: true },
    ...(second
      ? [
          { text: '. Then ' },
          { text: lower(second.task.act), to: 2 },
          { text: named(second, shortName(second.of, setups)) },
          { text: rest, aside: true as const },
        ]
      : []),
    { text: '.' },
  ];
}

/** The same as plain text. */
export const answerText = (parts: readonly AnswerPart[]): string => parts.map((p) => p.text).join('');
