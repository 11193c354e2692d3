import { Clipper, FillRule, type Path64, type Paths64 } from 'clipper2-ts';

import type { Point, Rect } from '../../geometry';
import type { Random } from '../../random/random';
import { MOST_PIECES, MOST_SHEETS } from '../sheet';

import { noFit, spaced, STEPS_PER_MM, turnedOutline, type Outline } from './noFit';
import { TURNS, turned, type Turn } from './turned';

/* True shapes nested: each put where it lies lowest, then leftmost, of all places where it may lie. */

export interface NestShape {
  readonly id: string;
  /** What it takes: outlines in its own frame, mm; they may overlap. */
  readonly outlines: readonly (readonly Point[])[];
  /** Null fills what is left. */
  readonly copies: number | null;
  readonly mayTurn: boolean;
}

export interface NestJob {
  readonly usable: Rect;
  readonly zones: readonly Rect[];
  readonly shapes: readonly NestShape[];
  readonly gapMm: number;
}

/** A piece: turned about its own origin, which then lies at (x, y), mm. */
export interface NestedPiece {
  readonly item: string;
  readonly turnDeg: Turn;
  readonly x: number;
  readonly y: number;
}

export type NestedSheets = readonly (readonly NestedPiece[])[];

/** Which of two nestings takes less media: more pieces, fewer sheets, the last of them used less far. */
export function takesLess(a: NestedSheets, b: NestedSheets): boolean {
  const [m, n] = [a, b].map((s) => s.reduce((sum, list) => sum + list.length, 0)) as [number, number];
  if (m !== n) return m > n;
  if (a.length !== b.length) return a.length < b.length;
  return far(a) < far(b) - 1e-6;
}

const far = (sheets: NestedSheets): number => Math.max(0, ...(sheets.at(-1) ?? []).map((p) => p.y));

/** One way through the shapes: in what order, how each may be turned. */
interface Way {
  readonly order: readonly NestShape[];
  readonly turns: readonly Turn[];
}

const BOTH_WAYS: readonly (readonly Turn[])[] = [[0, 180], [90, 270], TURNS, [0], [90]];

/**
 * Better and better nestings of the same job, one after the other, for as long as somebody wants to wait.
 *
 * Method   no-fit polygons, bottom-left placement (Burke et al. 2006; from memory), with other turns and orders each time.
 * Yields   after every way that was tried the best so far; it goes on for ever.
 */
export function* nestings(job: NestJob, random: Random): Generator<NestedSheets, never> {
  const bed = new Bed(job);
  const area = new Map(job.shapes.map((s) => [s.id, bed.areaOf(s)]));
  const largest = job.shapes.toSorted((a, b) => area.get(b.id)! - area.get(a.id)!);
  let best: NestedSheets = [];
  for (let turn = 0; ; turn += 1) {
    const turns = BOTH_WAYS[turn % BOTH_WAYS.length]!;
    const order =
      turn < BOTH_WAYS.length
        ? largest
        : largest
            .map((s) => [s, random()] as const)
            .sort((a, b) => a[1] - b[1])
            .map(([s]) => s);
    const found = bed.lay({ order, turns });
    if (takesLess(found, best)) best = found;
    yield best;
  }
}

/** The sheet that pieces are laid on, with what it knows of shapes that lie beside each other. */
class Bed {
  /** Grown by half the gap, for what lies beside them. */
  private readonly outlines = new Map<string, Outline>();
  /** As they are, for zones, which keep no gap. */
  private readonly bare = new Map<string, Outline>();
  private readonly noFits = new Map<string, Paths64>();
  private readonly bounds = new Map<string, Rect>();
  private readonly zones: readonly Path64[];

  constructor(private readonly job: NestJob) {
    for (const shape of job.shapes) {
      const outline = spaced(shape.outlines, job.gapMm / 2);
      const bare = spaced(shape.outlines, 0);
      for (const turn of TURNS) {
        this.outlines.set(`${shape.id} ${turn}`, turnedOutline(outline, turn));
        this.bare.set(`${shape.id} ${turn}`, turnedOutline(bare, turn));
        this.bounds.set(`${shape.id} ${turn}`, boundsOf(shape.outlines, turn));
      }
    }
    this.zones = job.zones.map(rectPath);
  }

  areaOf({ id }: NestShape): number {
    return Clipper.areaPaths([...this.outlines.get(`${id} 0`)!]);
  }

  lay({ order, turns }: Way): NestedSheets {
    const sheets: Sheet[] = [];
    const fresh = (): Sheet => {
      const sheet = new Sheet(this);
      sheets.push(sheet);
      return sheet;
    };
    for (const shape of order.filter((s) => s.copies !== null && s.copies > 0)) {
      let at = 0;
      for (let left = shape.copies!; left > 0 && at < MOST_SHEETS;) {
        const sheet = sheets[at] ?? fresh();
        if (sheet.put(shape, turns)) left -= 1;
        else at += 1;
      }
    }
    const fills = order.filter((s) => s.copies === null);
    if (fills.length > 0 && sheets.length === 0) fresh();
    for (const sheet of sheets)
      for (const shape of fills) while (sheet.placed.length < MOST_PIECES && sheet.put(shape, turns));
    return sheets.map((s) => s.placed).filter((s) => s.length > 0);
  }

  /** Where a shape's origin may lie at all. */
  within(id: string, turn: Turn): Path64 | null {
    const { usable } = this.job;
    const b = this.bounds.get(`${id} ${turn}`)!;
    const rect = { x0: usable.x0 - b.x0, y0: usable.y0 - b.y0, x1: usable.x1 - b.x1, y1: usable.y1 - b.y1 };
    return rect.x1 < rect.x0 || rect.y1 < rect.y0 ? null : rectPath(rect);
  }

  /** How far a shape reaches above its origin. */
  topOf(id: string, turn: Turn): number {
    return Math.round(this.bounds.get(`${id} ${turn}`)!.y1 * STEPS_PER_MM);
  }

  /** Where it may not, because of the zones. */
  offZones(id: string, turn: Turn): Paths64 {
    return this.zones.flatMap((zone) => noFit([zone], this.bare.get(`${id} ${turn}`)!));
  }

  /** Where it may not, because of a shape at the origin. */
  noFitOf(fixed: string, fixedTurn: Turn, id: string, turn: Turn): Paths64 {
    const key = `${fixed} ${fixedTurn} ${id} ${turn}`;
    const known = this.noFits.get(key);
    if (known) return known;
    const found = noFit(this.outlines.get(`${fixed} ${fixedTurn}`)!, this.outlines.get(`${id} ${turn}`)!);
    this.noFits.set(key, found);
    return found;
  }
}

/** One sheet as it fills. */
class Sheet {
  readonly placed: NestedPiece[] = [];
  /** Where each shape, turned so, may not lie any more. */
  private readonly closed = new Map<string, { area: Paths64; upTo: number }>();
  private readonly full = new Set<string>();

  constructor(private readonly bed: Bed) {}

  /** Puts a shape where it lies lowest, then leftmost; false where it goes nowhere. */
  put({ id, mayTurn }: NestShape, turns: readonly Turn[]): boolean {
    let best: { turn: Turn; x: number; y: number; top: number } | null = null;
    for (const turn of mayTurn ? turns : ([0] as const)) {
      const key = `${id} ${turn}`;
      if (this.full.has(key)) continue;
      const at = this.lowest(id, turn);
      if (!at) this.full.add(key);
      else if (!best || at.top < best.top - 1 || (at.top < best.top + 1 && at.x < best.x))
        best = { turn, ...at };
    }
    if (!best) return false;
    this.placed.push({ item: id, turnDeg: best.turn, x: best.x / STEPS_PER_MM, y: best.y / STEPS_PER_MM });
    return true;
  }

  private lowest(id: string, turn: Turn): { x: number; y: number; top: number } | null {
    const within = this.bed.within(id, turn);
    if (!within) return null;
    const free = Clipper.difference([within], this.closedTo(id, turn), FillRule.NonZero);
    // A place that fits to the last thousandth has no area left.
    const places = free.length > 0 ? free.flat() : [];
    const first = places.reduce<Path64[number] | null>(
      (a, p) => (!a || p.y < a.y || (p.y === a.y && p.x < a.x) ? p : a),
      null,
    );
    return first && { x: first.x, y: first.y, top: first.y + this.bed.topOf(id, turn) };
  }

  private closedTo(id: string, turn: Turn): Paths64 {
    const key = `${id} ${turn}`;
    const known = this.closed.get(key) ?? { area: this.bed.offZones(id, turn), upTo: 0 };
    const more = this.placed
      .slice(known.upTo)
      .flatMap((p) =>
        this.bed
          .noFitOf(p.item, p.turnDeg, id, turn)
          .map((path) =>
            Clipper.translatePath(path, Math.round(p.x * STEPS_PER_MM), Math.round(p.y * STEPS_PER_MM)),
          ),
      );
    if (more.length > 0) known.area = Clipper.union([...known.area, ...more], FillRule.NonZero);
    known.upTo = this.placed.length;
    this.closed.set(key, known);
    return known.area;
  }
}

const rectPath = ({ x0, y0, x1, y1 }: Rect): Path64 =>
  (
    [
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ] as const
  ).map(([x, y]) => ({ x: Math.round(x * STEPS_PER_MM), y: Math.round(y * STEPS_PER_MM) }));

function boundsOf(outlines: readonly (readonly Point[])[], turn: Turn): Rect {
  const box = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
  for (const p of outlines.flat()) {
    const { x, y } = turned(p, turn);
    box.x0 = Math.min(box.x0, x);
    box.y0 = Math.min(box.y0, y);
    box.x1 = Math.max(box.x1, x);
    box.y1 = Math.max(box.y1, y);
  }
  return box;
}
