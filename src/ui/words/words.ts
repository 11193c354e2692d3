/* Words of the trade and of ours, each explained once: on hover and tap (Word.tsx), and in docs/words.md. */

export const WORDS = {
  comb: 'Printed lines and cut lines with slightly different spacing. Where one runs straight through the other, its label is the offset.',
  station:
    'A place on the proof sheet with a disc, two combs and a coarse cross: where the cut is compared with the print.',
  'coarse cross':
    'One cut line across a printed half-millimetre scale. It tells which of a comb’s repeats is the right one.',
  creep:
    'How much longer or shorter the cut runs than the print for each metre of feed; the same for every run of a rig and medium.',
  bow: 'How the cut curves away from the print along a long piece and comes back.',
  wander:
    'The part of drift that differs from run to run and cannot be foreseen; it grows with the length between registrations.',
  slip: 'A sudden jump of the cut against the print, as when media slides in the rollers.',
  setup: 'A rig with one medium and size on it: what is calibrated, checked and run.',
  rig: 'A printer and a cutter that work together, and how the cutter finds the print.',
  'standing correction':
    'What to have typed in, and what goes into every cut file of a setup, until a proved calibration replaces it.',
  'registration mark': 'A printed mark that the cutter’s sensor looks for, to know where the print lies.',
  lean: 'The feed axis is not square to the width: a rectangle is cut as a parallelogram.',
  'load scatter':
    'How much the cut differs from one load of the same sheet to the next; no correction can take it out.',
  plumb: 'Within what is allowed, with room to spare; leaning is near the limit, out of plumb beyond it.',
  '95 of 100':
    'The radius within which 95 of 100 cuts to come are expected to lie, at the worst place of the work area.',
  witness:
    'A station of the proof sheet in the waste of a job: printed and cut with it, and read like any comb.',
} as const;

export type Term = keyof typeof WORDS;
