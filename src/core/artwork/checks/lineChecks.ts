import { rectHeight, rectWidth, type Rect } from '../../geometry';

import { encloses } from '../trace';

import { crossesItself, crossing } from './crossing';
import { along, boundsOf, enters, lengthOf, PieceGrid, toPiece } from './segments';
import type { CheckContext, CheckedLine, Finding } from './types';

/** Ends this near are one, mm. */
const CLOSED_MM = 0.05;
/** Lines this near are cut twice, mm; from so much of their length on. */
const DOUBLED_MM = 0.06;
const DOUBLED_LENGTH_MM = 3;
const DOUBLED_SHARE = 0.15;
/** What reaches beyond a limit by less than this does not: curves lie within two hundredths of their line. */
const GUARD_MM = 0.03;

/** Words in a layer's name that say what its lines are. */
const NOT_CUT = /score|crease|fold|perf|pen|draw|write|ignore|guide|none/i;
const CUT = /cut|kiss|die|through|contour|outline/i;
/** Pens of a plotter file are only numbered. */
const ONLY_NUMBERED = /^(pen|layer)?\s*\d*$/i;

const isCut = ({ layer }: CheckedLine): boolean =>
  ONLY_NUMBERED.test(layer) || !NOT_CUT.test(layer) || CUT.test(layer);

/** Everything that the lines of a cut file say by themselves. */
export function lineFindings(lines: readonly CheckedLine[], context: CheckContext): Finding[] {
  const bounds = lines.map(boundsOf);
  const cuts = lines.map(isCut);
  return [
    ...kinds(lines),
    ...lines.flatMap((line, i) => oneLine(line, bounds[i]!, cuts[i]!, context)),
    ...between(lines, bounds, cuts, context),
  ];
}

function kinds(lines: readonly CheckedLine[]): Finding[] {
  const layers = [...new Set(lines.map((l) => l.layer))];
  const unnamed = layers.filter((l) => ONLY_NUMBERED.test(l) || (!NOT_CUT.test(l) && !CUT.test(l)));
  if (layers.length < 2 || unnamed.length === 0) return [];
  return [
    {
      ...{ code: 'line-kind', severity: 'look', where: null },
      message: `The lines are of ${layers.length} kinds, and nothing says what ${unnamed.length === 1 ? `“${unnamed[0] ?? ''}” is` : 'they are'}: which are cut, scored or left?`,
      fix: 'Name each layer after what is done with it: cut, kiss cut, score, perforate, pen.',
    },
  ];
}

function oneLine(line: CheckedLine, bounds: Rect, cut: boolean, c: CheckContext): Finding[] {
  const found: Finding[] = [];
  const say = (code: Finding['code'], severity: Finding['severity'], message: string, fix?: string): void => {
    found.push({ code, severity, where: bounds, message, ...(fix ? { fix } : {}) });
  };
  if (beyond(bounds, c.cuttable))
    say(
      'outside-cuttable',
      'stop',
      `A line reaches ${reach(bounds, c.cuttable)} beyond what the cutter reaches.`,
      'Move the pieces in, or lay fewer on the sheet.',
    );
  else if (beyond(bounds, c.printable))
    say(
      'outside-printable',
      'stop',
      `A line reaches ${reach(bounds, c.printable)} beyond what is printed: its piece stays unprinted there.`,
      'Move the pieces in, or lay fewer on the sheet.',
    );
  for (const m of c.marks) {
    const half = m.sizeMm / 2 + m.clearMm;
    if (enters(line, { x0: m.x - half, y0: m.y - half, x1: m.x + half, y1: m.y + half }))
      say(
        'in-clear-zone',
        'stop',
        `A line runs into the clear zone of the mark at ${at(m.x)}, ${at(m.y)} mm.`,
        'Keep it out of the zone: the sensor takes it for the mark.',
      );
  }
  if (!cut) return found;
  const [first, last] = [line.points[0]!, line.points.at(-1)!];
  const gap = Math.hypot(first.x - last.x, first.y - last.y);
  const closed = line.closed || gap <= CLOSED_MM;
  if (!closed)
    say(
      'open-path',
      'look',
      `A line is open: its ends are ${gap.toFixed(2)} mm apart.`,
      gap < 1 ? 'Join its ends.' : 'Close it, or put it on a layer for scoring.',
    );
  if (crossesItself(line))
    say(
      'crosses-itself',
      'stop',
      'A line crosses itself: the piece falls apart there.',
      'Unite its shapes into one outline.',
    );
  const smallest = Math.min(rectWidth(bounds), rectHeight(bounds));
  if (closed && smallest < c.smallestMm)
    say(
      'too-small',
      'look',
      `A piece is only ${smallest.toFixed(1)} mm across: it lifts or is lost in weeding.`,
      `Leave out what is under ${c.smallestMm} mm, or make it larger.`,
    );
  return found;
}

const beyond = (r: Rect, limit: Rect): boolean =>
  r.x0 < limit.x0 - GUARD_MM ||
  r.y0 < limit.y0 - GUARD_MM ||
  r.x1 > limit.x1 + GUARD_MM ||
  r.y1 > limit.y1 + GUARD_MM;

const reach = (r: Rect, limit: Rect): string =>
  `${Math.max(limit.x0 - r.x0, limit.y0 - r.y0, r.x1 - limit.x1, r.y1 - limit.y1).toFixed(1)} mm`;

const at = (mm: number): string => String(Math.round(10 * mm) / 10);

/** What lines are to each other: doubled, too near, one inside another. */
function between(
  lines: readonly CheckedLine[],
  bounds: readonly Rect[],
  cuts: readonly boolean[],
  { nearestMm }: CheckContext,
): Finding[] {
  const grid = new PieceGrid(lines, nearestMm);
  const found: Finding[] = [];
  const doubled = new Set<number>();
  lines.forEach((line, i) => {
    if (!cuts[i]) return;
    const places = along(line, 0.5);
    const step = places.length === 0 ? 0 : lengthOf(line) / places.length;
    let [twice, nearest] = [0, Infinity];
    const twins = new Set<number>();
    for (const p of places) {
      let own = Infinity;
      for (const piece of grid.near(p)) {
        if (piece.line === i || !cuts[piece.line]) continue;
        const d = toPiece(p, piece);
        own = Math.min(own, d);
        if (d <= DOUBLED_MM) twins.add(piece.line);
      }
      if (own <= DOUBLED_MM) twice += 1;
      else nearest = Math.min(nearest, own);
    }
    if (twice * step >= DOUBLED_LENGTH_MM && twice >= DOUBLED_SHARE * places.length) {
      // Told once of two.
      if (![...twins].some((t) => doubled.has(t)))
        found.push({
          ...{ code: 'doubled-line', severity: 'stop', where: bounds[i]! },
          message: `${(twice * step).toFixed(0)} mm of a line lie on another: it would be cut twice.`,
          fix: 'Delete one of them.',
        });
      doubled.add(i);
    } else if (nearest < nearestMm && twice === 0)
      found.push({
        ...{ code: 'too-near', severity: 'look', where: bounds[i]! },
        message: `Two lines come within ${nearest.toFixed(2)} mm of each other: what is between them tears.`,
        fix: `Keep lines ${nearestMm} mm apart, or merge their shapes.`,
      });
  });
  return [...found, ...crossing(lines, bounds, cuts, doubled), ...islands(lines, bounds, cuts, doubled)];
}

function islands(
  lines: readonly CheckedLine[],
  bounds: readonly Rect[],
  cuts: readonly boolean[],
  doubled: ReadonlySet<number>,
): Finding[] {
  const order = lines
    .map((_, i) => i)
    .filter((i) => cuts[i] && lines[i]!.closed)
    .sort((a, b) => bounds[a]!.x0 - bounds[b]!.x0);
  return order.flatMap((i): Finding[] => {
    if (doubled.has(i)) return [];
    const inner = bounds[i]!;
    const outer = order.find((j) => {
      const o = bounds[j]!;
      return (
        j !== i &&
        // A kiss cut within a cut-through is a sticker on its backing, a score a fold: no hole.
        lines[j]!.layer === lines[i]!.layer &&
        o.x0 < inner.x0 &&
        o.y0 < inner.y0 &&
        o.x1 > inner.x1 &&
        o.y1 > inner.y1 &&
        encloses(lines[j]!.points, lines[i]!.points[0]!)
      );
    });
    if (outer === undefined) return [];
    return [
      {
        ...{ code: 'island', severity: 'look', where: inner },
        message: `A line of ${rectWidth(inner).toFixed(1)} × ${rectHeight(inner).toFixed(1)} mm lies inside another: a true hole, or an island, or the original left under its border?`,
        fix: 'Keep it if it is a hole to be cut out; else delete it.',
      },
    ];
  });
}
