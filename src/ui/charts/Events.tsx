import { across, type Box } from './frame';

/** About as wide as a letter of these words is drawn, so that it is known before they are. */
const LETTER_WIDTH = 7;
/** From the words of one event to those of the next below. */
const LEVEL = 17;

export interface ChartEvent {
  readonly at: Date;
  readonly words: string;
}

/** Where the words of events stand: towards the middle, one above the other where they would touch. */
export function eventLabels(
  events: readonly { readonly at: number; readonly words: string }[],
  right: number,
) {
  const ends: number[] = [];
  return events.map(({ at, words }) => {
    const leftwards = at + 5 + LETTER_WIDTH * words.length > right;
    const from = leftwards ? at - 5 - LETTER_WIDTH * words.length : at + 5;
    const free = ends.findIndex((end) => end < from);
    const level = free >= 0 ? free : ends.length;
    ends[level] = from + LETTER_WIDTH * words.length;
    return { x: at + (leftwards ? -5 : 5), anchor: leftwards ? ('end' as const) : ('start' as const), level };
  });
}

/** The events of a stretch of time, each with the place of its words. */
export function eventsIn(
  events: readonly ChartEvent[],
  [first, last]: readonly [Date, Date],
  x: (at: Date) => number,
  box: Box,
) {
  const shown = events.filter((e) => e.at >= first && e.at <= last).sort((a, b) => +a.at - +b.at);
  const labels = eventLabels(
    shown.map((e) => ({ at: x(e.at), words: e.words })),
    across(box).to,
  );
  return {
    list: shown.map((e, i) => ({ ...e, x: x(e.at), label: labels[i]! })),
    /** How high their words stand together. */
    heightPx: LEVEL * Math.max(0, ...labels.map((l) => l.level + 1)),
  };
}

/** What happened: a line through the chart, its words beside or under it. */
export function Events({
  events,
  top,
  bottom,
  words,
}: {
  readonly events: ReturnType<typeof eventsIn>;
  readonly top: number;
  readonly bottom: number;
  /** Where the first line of words stands; others go down from there, or up. */
  readonly words: { readonly at: number; readonly up?: boolean };
}) {
  return (
    <>
      {events.list.map((e, i) => (
        <g key={`${e.at.toISOString()} ${i}`}>
          <path
            d={`M${e.x} ${top}V${bottom}`}
            fill="none"
            stroke="var(--rp-ink-soft)"
            strokeDasharray="1.5 4"
          />
          <text
            x={e.label.x}
            y={words.at + (words.up ? -LEVEL : LEVEL) * e.label.level}
            textAnchor={e.label.anchor}
            className={words.up ? 'soft' : undefined}
            style={{ fontSize: 13 }}
          >
            {e.words}
          </text>
        </g>
      ))}
    </>
  );
}
