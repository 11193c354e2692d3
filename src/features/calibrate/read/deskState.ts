import { COARSE_GRADUATION_MM, COARSE_REACH_MM } from '@/core/tolerance';
import type { LineComb } from '@/core/comb';
import type { LengthUnit } from '@/core/units';

import type { CoarseDoubt } from './coarseDoubt';
import { stepsOfLabel, wrap, type Hand } from './readingHand';
import type { KeptReading } from './useReadings';

/* What the reading desk holds beside the readings, and how presses change it: no screen, no server. */

export interface Desk {
  readonly hand: Hand;
  /** The label that is being typed; empty when none is. */
  readonly typed: string;
  /** Why what was typed leads nowhere. */
  readonly notThere: string;
  /** The reading that was just taken back. */
  readonly taken: KeptReading | null;
  /** The comb to go to once the reading before it counts: it may tell the whole lengths. */
  readonly awaiting: number | null;
  /** The comb under the hand was open when it was laid out, and nobody here has kept it since. */
  readonly open: boolean;
  /** What this hand kept last left nothing open: the desk says what all of it says. */
  readonly finished: boolean;
  /** A cross that was asked about: Enter once more keeps it. */
  readonly doubt: CoarseDoubt | null;
  /** Who has read the comb that was under the hand, and which it was. */
  readonly overtaken: string;
}

export type Press =
  | { readonly kind: 'nudge'; readonly by: 1 | -1 }
  | { readonly kind: 'between' }
  | { readonly kind: 'coarse' }
  | { readonly kind: 'type'; readonly key: string }
  | { readonly kind: 'enter' }
  | { readonly kind: 'lay-out'; readonly hand: Hand; readonly open: boolean; readonly overtaken?: string }
  | { readonly kind: 'all-read'; readonly overtaken: string }
  | { readonly kind: 'kept'; readonly next: number | null }
  | { readonly kind: 'taken-back'; readonly reading: KeptReading }
  | { readonly kind: 'undone' }
  /** What was asked about was something else. */
  | { readonly kind: 'meant'; readonly coarseMm: number };

/** The comb under the hand, and the unit its labels are in. */
export interface UnderHand {
  readonly comb: LineComb;
  readonly unit: LengthUnit;
  /** What to ask about a cross that is read so; null where nothing. */
  readonly doubt?: (coarseMm: number) => CoarseDoubt | null;
}

const MOST_TYPED = 8;
/** A cross can be read half a millimetre beyond its last graduation. */
const MOST_COARSE_MM = COARSE_REACH_MM + 0.5;

export const openDesk = (hand: Hand, open = true): Desk => ({
  hand,
  open,
  finished: false,
  overtaken: '',
  doubt: null,
  typed: '',
  notThere: '',
  taken: null,
  awaiting: null,
});

/** Whether Enter keeps a reading now, rather than taking a typed label or going on to the comb. */
export const enterKeeps = ({ typed, hand }: Desk): boolean => typed === '' && hand.mode === 'fine';

/** The desk after a press. */
export function pressed(before: Desk, press: Press, { comb, unit, doubt }: UnderHand): Desk {
  // Whatever is pressed answers what was asked.
  const desk: Desk = { ...before, doubt: null };
  const { hand } = desk;
  switch (press.kind) {
    case 'nudge':
      return { ...desk, finished: false, hand: nudged(hand, press.by, comb) };
    case 'between':
      return hand.mode === 'coarse' ? desk : { ...desk, hand: { ...hand, steps: halved(hand.steps, comb) } };
    case 'coarse':
      return { ...desk, hand: { ...hand, mode: 'coarse', coarseMm: hand.coarseRead ?? 0 } };
    case 'type':
      return { ...desk, notThere: '', typed: typedOn(desk.typed, press.key) };
    case 'enter':
      if (desk.typed !== '') return taken(desk, comb, unit);
      if (hand.mode === 'fine') return { ...desk, notThere: '' };
      if (before.doubt?.coarseMm !== hand.coarseMm) {
        const asked = doubt?.(hand.coarseMm);
        if (asked) return { ...desk, notThere: '', doubt: asked };
      }
      return {
        ...desk,
        notThere: '',
        hand: { ...hand, mode: 'fine', coarseRead: hand.coarseMm, steps: 0 },
      };
    case 'lay-out':
      return {
        ...desk,
        hand: press.hand,
        awaiting: null,
        open: press.open,
        finished: false,
        overtaken: press.overtaken ?? '',
      };
    case 'all-read':
      return { ...desk, open: false, finished: true, overtaken: press.overtaken };
    case 'kept':
      return {
        ...desk,
        taken: null,
        awaiting: press.next,
        open: false,
        finished: press.next === null,
        overtaken: '',
      };
    case 'taken-back':
      return { ...desk, taken: press.reading, finished: false };
    case 'undone':
      return { ...desk, taken: null };
    case 'meant':
      return { ...desk, hand: { ...hand, coarseMm: press.coarseMm } };
    default:
      return press satisfies never;
  }
}

function nudged(hand: Hand, by: 1 | -1, comb: LineComb): Hand {
  if (hand.mode === 'coarse') {
    const next = hand.coarseMm + by * COARSE_GRADUATION_MM;
    return { ...hand, coarseMm: Math.min(MOST_COARSE_MM, Math.max(-MOST_COARSE_MM, next)) };
  }
  // From between two lines the next line is half a step away.
  const step = Number.isInteger(hand.steps) ? by : by / 2;
  return { ...hand, steps: wrap(comb, hand.steps + step) };
}

const halved = (steps: number, comb: LineComb): number =>
  wrap(comb, Number.isInteger(steps) ? steps + 0.5 : steps - 0.5);

function typedOn(typed: string, key: string): string {
  if (key === 'Escape') return '';
  if (key === 'Backspace') return typed.slice(0, -1);
  return typed.length < MOST_TYPED ? typed + key : typed;
}

/** Puts the hand where the typed label stands; Enter once more keeps it. */
function taken(desk: Desk, comb: LineComb, unit: LengthUnit): Desk {
  const { hand, typed } = desk;
  if (hand.mode === 'coarse') {
    const figure = Number(typed.replace(',', '.'));
    if (!Number.isFinite(figure) || Math.abs(figure) > MOST_COARSE_MM)
      return {
        ...desk,
        typed: '',
        notThere: `The cross goes from −${COARSE_REACH_MM} to +${COARSE_REACH_MM} mm.`,
      };
    const coarseMm = COARSE_GRADUATION_MM * Math.round(figure / COARSE_GRADUATION_MM);
    return { ...desk, typed: '', hand: { ...hand, coarseMm } };
  }
  const found = stepsOfLabel(comb, typed, unit);
  return 'message' in found
    ? { ...desk, typed: '', notThere: found.message }
    : { ...desk, typed: '', hand: { ...hand, steps: found.steps } };
}

export type KeyMeaning = Press['kind'] | 'clear' | 'back' | 'on';

/** What a key means at the desk; null when nothing. A figure or a sign begins a label. */
export function meaningOf(
  key: string,
  typing: boolean,
): { readonly kind: KeyMeaning; readonly by?: 1 | -1 } | null {
  if (/^[0-9.,+-]$/.test(key) || (typing && /^(Backspace|Escape)$/.test(key))) return { kind: 'type' };
  switch (key) {
    case 'ArrowRight':
    case 'ArrowUp':
      return { kind: 'nudge', by: 1 };
    case 'ArrowLeft':
    case 'ArrowDown':
      return { kind: 'nudge', by: -1 };
    case 'b':
      return { kind: 'between' };
    case 'c':
      return { kind: 'coarse' };
    case 'Delete':
    case 'Backspace':
      return { kind: 'clear' };
    case 'Enter':
      return { kind: 'enter' };
    case 'PageUp':
      return { kind: 'back' };
    case 'PageDown':
      return { kind: 'on' };
    default:
      return null;
  }
}
