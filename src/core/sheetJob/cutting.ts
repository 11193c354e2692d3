import type { ClosedPath } from '../artwork';

import { type JobGeometry } from './job';
import { type JobPiece } from './job';
import { type LineKind } from './job';
import { LINE_KINDS } from './job';

/*
 * What is cut of a frozen print, and how: which lines by which tool, in what order, how often, which pieces at all. It moves
 * no line, so that it may differ from one cut file of the same print to the next.
 */

/** The lines of a piece: its outline, the holes in it, the second line round it. */
export const LINE_ROLES = ['outline', 'holes', 'second'] as const;
export type LineRole = (typeof LINE_ROLES)[number];

export interface Cutting {
  /** Lines that are not cut as they were laid out. */
  readonly kinds: readonly {
    readonly piece: string;
    readonly role: LineRole;
    readonly kind: LineKind | 'none';
  }[];
  /** Kinds in the order in which they are cut; those not named follow as in `CUT_ORDER`. */
  readonly sequence: readonly LineKind[];
  /** Holes before what holds them, so that a piece is never loose when it is cut; true: the other way about. */
  readonly outerFirst: boolean;
  /** How often a kind is cut; paused, each pass is a layer and a pen of its own. */
  readonly passes: readonly { readonly kind: LineKind; readonly times: number; readonly pause: boolean }[];
  /** Pieces that are left as they are: their sheet and their place in it, from 0. */
  readonly left: readonly { readonly sheet: number; readonly index: number }[];
  /** Blade, force, speed: what whoever cuts it has to know, as typed. */
  readonly tools: readonly { readonly kind: LineKind; readonly words: string }[];
}

/** What loosens nothing first, what loosens most last. */
export const CUT_ORDER: readonly LineKind[] = ['pen', 'score', 'perforate', 'kiss-cut', 'cut-through'];
/** So often a line is cut at most. */
export const MOST_PASSES = 9;

export const AS_LAID_OUT: Cutting = {
  ...{ kinds: [], sequence: CUT_ORDER, outerFirst: false, passes: [], left: [], tools: [] },
};

/** What a piece has: its lines by their role, with the kind that each is laid out as. */
export function linesByRole(
  piece: JobPiece,
): readonly { readonly role: LineRole; readonly kind: LineKind; readonly lines: readonly ClosedPath[] }[] {
  const holes = piece.lines.filter((l) => l.hole);
  const outline = piece.lines.filter((l) => !l.hole);
  return [
    { role: 'holes', kind: piece.kind, lines: holes } as const,
    { role: 'outline', kind: piece.kind, lines: outline } as const,
    ...(piece.second
      ? [{ role: 'second', kind: piece.second.kind, lines: piece.second.lines } as const]
      : []),
  ].filter(({ lines }) => lines.length > 0);
}

/** What is done to a line of a piece. */
export const kindOf = (
  { kinds }: Cutting,
  piece: string,
  role: LineRole,
  laidOut: LineKind,
): LineKind | 'none' => kinds.find((k) => k.piece === piece && k.role === role)?.kind ?? laidOut;

/** All kinds in the order in which they are cut. */
export const sequenceOf = ({ sequence }: Cutting): LineKind[] => [
  ...sequence,
  ...CUT_ORDER.filter((kind) => !sequence.includes(kind)),
];

/** One time through the lines of a kind, with the layer that it is written to. */
export interface CutPass {
  readonly kind: LineKind;
  readonly layer: string;
  readonly pen: number;
}

/** Pens 1 to 5 are the kinds', the next is the witness's. */
const FIRST_PASS_PEN = LINE_KINDS.length + 2;

/** The passes of a cut file in their order: each kind as often as it is cut. */
export function passesOf(cutting: Cutting): CutPass[] {
  let pen = FIRST_PASS_PEN;
  return sequenceOf(cutting).flatMap((kind) => {
    const { times, pause } = cutting.passes.find((p) => p.kind === kind) ?? { times: 1, pause: false };
    return Array.from({ length: times }, (_, turn): CutPass => {
      const own = pause && turn > 0;
      return {
        kind,
        layer: own ? `${kind}-pass-${turn + 1}` : kind,
        pen: own ? pen++ : LINE_KINDS.indexOf(kind) + 1,
      };
    });
  });
}

type Pieces = Pick<JobGeometry, 'pieces'>;

/** What is done to the lines of a job that are cut at all or left. */
const doneTo = (cutting: Cutting, { pieces }: Pieces): Set<LineKind | 'none'> =>
  new Set(
    pieces
      .filter((p) => p.copies !== 0)
      .flatMap((p) => linesByRole(p).map(({ role, kind }) => kindOf(cutting, p.id, role, kind))),
  );

/** The kinds that are cut of a job, in the order in which they are. */
export function kindsMet(cutting: Cutting, of: Pieces): LineKind[] {
  const met = doneTo(cutting, of);
  return sequenceOf(cutting).filter((kind) => met.has(kind));
}

/** What may go wrong with an order of cutting: pieces that are loose before the last line is cut in them. */
export function cuttingCautions(cutting: Cutting, of: Pieces): string[] {
  const order = kindsMet(cutting, of);
  const through = order.indexOf('cut-through');
  const after = through < 0 ? [] : order.slice(through + 1);
  const holes = of.pieces.some((p) => p.copies !== 0 && p.lines.some((l) => l.hole));
  return [
    ...(after.length > 0
      ? [
          `Cut through before ${after.join(' and ')}: pieces may move on the mat before their last line is cut. Hold them down, or cut through last.`,
        ]
      : []),
    ...(cutting.outerFirst && holes
      ? ['Outlines before holes: what was cut loose may move before its holes are cut.']
      : []),
    ...(order.length === 0 ? ['Nothing is cut.'] : []),
  ];
}
