import type { CutFormat } from '@/core/drawing/formats';

import { seededRandom, type Random } from '../../src/core/random/random';

/* Real files with figures changed to awkward ones, pieces doubled, letters swapped and ends cut off. By a seed. */

const AWKWARD = [
  ...[
    '0',
    '-0',
    '1e-9',
    '-1e-12',
    '0.0000001',
    '1e6',
    '-1e6',
    '999999.99',
    '1e9',
    '-1e9',
    '1e15',
    '1e300',
    '1e309',
  ],
  ...[
    'NaN',
    'Infinity',
    '-Infinity',
    '1e',
    '--1',
    '1.2.3',
    '.',
    '',
    '360',
    '-720',
    '1e-300',
    '2147483648',
    '0x10',
  ],
];
const LETTERS: Readonly<Record<CutFormat, string>> = {
  svg: ' <>&;"\'=/0123456789.-eEMmLlCcAaQqTtSsZzghpatu\u0000\u00e9',
  dxf: '\n\r 0123456789.-eESECTIONLINEARCPOLY\u0000',
  hpgl: 'INPUDARSCET;,.-0123456789 \u0003\u001b\u0000',
};

const below = (random: Random, n: number): number => Math.floor(random() * n);
const pick = <T>(random: Random, list: ArrayLike<T>): T => list[below(random, list.length)]!;

/** One mutated file: the same for the same seed. */
export function mutated(source: string, format: CutFormat, seed: number): string {
  const random = seededRandom(seed);
  let text = source;
  for (let i = below(random, 8); i >= 0; i -= 1) text = changed(text, format, random);
  return text;
}

function changed(text: string, format: CutFormat, random: Random): string {
  const at = below(random, text.length + 1);
  switch (below(random, 8)) {
    case 0:
    case 1:
    case 2:
      return figureChanged(text, at, pick(random, AWKWARD));
    case 3:
      return figureChanged(text, at, pick(random, '0123456789').repeat(1 + below(random, 3000)));
    case 4: {
      const piece = text.slice(at, at + below(random, 400));
      return text.slice(0, at) + piece.repeat(2 + below(random, 40)) + text.slice(at);
    }
    case 5:
      return text.slice(0, at) + text.slice(at + below(random, 200));
    case 6: {
      const noise = Array.from({ length: 1 + below(random, 12) }, () => pick(random, LETTERS[format])).join(
        '',
      );
      return text.slice(0, at) + noise + text.slice(at + below(random, 12));
    }
    default:
      return random() < 0.2 ? text.slice(0, at) : figureChanged(text, at, String((random() - 0.5) * 4000));
  }
}

/** The next figure after a place becomes another. */
function figureChanged(text: string, from: number, to: string): string {
  const found = /-?\d[\d.]*/.exec(text.slice(from, from + 4000));
  if (!found) return text;
  const at = from + found.index;
  return text.slice(0, at) + to + text.slice(at + found[0].length);
}
