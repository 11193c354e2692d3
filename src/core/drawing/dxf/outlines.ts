import { SAME } from '../../tolerance';
import { type Affine, determinant, IDENTITY, type Point } from '../../geometry';
import { type DrawnPath, mapPath, type Segment } from '..';
import { Notes } from '../notes';

import { type DxfRecord, number, numbers } from './pairs';
import { flattenSpline, isSound } from './spline';
import { throughPoints } from './throughPoints';

/** A bulge under this is a straight line. */
const STRAIGHT_BULGE = 1e-12;

/** Splines become lines this close to themselves on reading, mm. */
const SPLINE_CHORD_MM = 0.001;

export const stretch = (map: Affine): number => Math.sqrt(Math.abs(determinant(map))) || 1;

type Outline = Pick<DrawnPath, 'start' | 'segments' | 'closed'>;

/** An entity's geometry in its own units; null, with a note, for what is not a line to cut. */
export function outline(
  entity: DxfRecord,
  parts: readonly DxfRecord[],
  tilt: number,
  mmPerUnit: number,
  notes: Notes,
): Outline | null {
  const at = (x: number, y: number): Point => ({ x: number(entity, x, 0), y: number(entity, y, 0) });
  switch (entity.type) {
    case 'LINE': {
      const to = at(11, 21);
      return { start: at(10, 20), segments: [{ kind: 'lines', xy: [to.x, to.y] }], closed: false };
    }
    case 'LWPOLYLINE':
      return mirrored(polyline(lightVertices(entity), (number(entity, 70, 0) & 1) === 1), tilt);
    case 'POLYLINE':
      return mirrored(heavyPolyline(entity, parts, notes), tilt);
    case 'CIRCLE':
    case 'ARC': {
      const whole = entity.type === 'CIRCLE';
      const from = whole ? 0 : (number(entity, 50, 0) * Math.PI) / 180;
      const to = whole ? 2 * Math.PI : (number(entity, 51, 360) * Math.PI) / 180;
      const radius = number(entity, 40, 0);
      return mirrored(arc(at(10, 20), { x: radius, y: 0 }, { x: 0, y: radius }, from, to, whole), tilt);
    }
    case 'ELLIPSE': {
      const u = at(11, 21);
      const ratio = number(entity, 40, 1) * Math.sign(tilt);
      const from = number(entity, 41, 0);
      const to = number(entity, 42, 2 * Math.PI);
      const whole = Math.abs(Math.abs(to - from) - 2 * Math.PI) < SAME;
      return arc(at(10, 20), u, { x: -u.y * ratio, y: u.x * ratio }, from, to, whole);
    }
    case 'SPLINE':
      return spline(entity, mmPerUnit, notes);
    default:
      if (entity.type !== 'ATTRIB' && entity.type !== 'SEQEND' && entity.type !== 'VERTEX')
        notes.add(`${entity.type.slice(0, 30)} left out: not a line to cut`);
      return null;
  }
}

/** Entities of a plane seen from behind run from right to left. */
function mirrored(drawn: Outline | null, tilt: number): Outline | null {
  if (!drawn || tilt > 0) return drawn;
  const behind = { kind: 'affine', ...IDENTITY, a11: -1 } as const;
  const { start, segments } = mapPath({ ...drawn, layer: '', colour: null, pen: null }, behind);
  return { ...drawn, start, segments };
}

function arc(centre: Point, u: Point, v: Point, from: number, to: number, closed: boolean): Outline | null {
  if (u.x ** 2 + u.y ** 2 === 0 || v.x ** 2 + v.y ** 2 === 0) return null;
  let sweep = closed ? 2 * Math.PI : (to - from) % (2 * Math.PI);
  if (sweep <= 0) sweep += 2 * Math.PI;
  const start = {
    x: centre.x + u.x * Math.cos(from) + v.x * Math.sin(from),
    y: centre.y + u.y * Math.cos(from) + v.y * Math.sin(from),
  };
  return { start, segments: [{ kind: 'arc', centre, u, v, from, sweep }], closed };
}

interface Vertex extends Point {
  readonly bulge: number;
}

/** LWPOLYLINE keeps its vertices as runs of 10, 20 and, after them, 42. */
function lightVertices(entity: DxfRecord): Vertex[] {
  const vertices: { x: number; y: number; bulge: number }[] = [];
  const ys = numbers(entity, 20);
  const xs = numbers(entity, 10);
  xs.forEach((x, i) => vertices.push({ x, y: ys[i] ?? 0, bulge: 0 }));
  let index = -1;
  entity.codes.forEach((code, i) => {
    if (code === 10) index += 1;
    if (code === 42 && index >= 0) vertices[index]!.bulge = Number(entity.values[i]) || 0;
  });
  return vertices;
}

function heavyPolyline(entity: DxfRecord, parts: readonly DxfRecord[], notes: Notes): Outline | null {
  const flags = number(entity, 70, 0);
  if ((flags & (16 | 64)) !== 0) {
    notes.add('POLYLINE left out: a mesh is not a line to cut');
    return null;
  }
  const vertices = parts
    // 16: a control point of a fitted curve, which has vertices of its own.
    .filter((p) => p.type === 'VERTEX' && (number(p, 70, 0) & 16) === 0)
    .map((p) => ({ x: number(p, 10, 0), y: number(p, 20, 0), bulge: number(p, 42, 0) }));
  return polyline(vertices, (flags & 1) === 1);
}

/** Runs of straight lines and, where a vertex bulges, arcs. */
function polyline(vertices: readonly Vertex[], closed: boolean): Outline | null {
  if (vertices.length < 2) return null;
  const segments: Segment[] = [];
  let run: number[] = [];
  const last = closed ? vertices.length : vertices.length - 1;
  for (let i = 0; i < last; i += 1) {
    const from = vertices[i]!;
    const to = vertices[(i + 1) % vertices.length]!;
    if (Math.abs(from.bulge) < STRAIGHT_BULGE || (from.x === to.x && from.y === to.y)) run.push(to.x, to.y);
    else {
      if (run.length > 0) segments.push({ kind: 'lines', xy: run });
      run = [];
      segments.push(bulged(from, to, from.bulge));
    }
  }
  if (run.length > 0) segments.push({ kind: 'lines', xy: run });
  return { start: { x: vertices[0]!.x, y: vertices[0]!.y }, segments, closed };
}

/** bulge = tan(included angle / 4), positive to the left of the chord's direction (DXF reference; memory). */
function bulged(from: Point, to: Point, bulge: number): Segment {
  const rise = (1 - bulge ** 2) / (4 * bulge);
  const centre = {
    x: (from.x + to.x) / 2 - (to.y - from.y) * rise,
    y: (from.y + to.y) / 2 + (to.x - from.x) * rise,
  };
  const radius = Math.hypot(from.x - centre.x, from.y - centre.y);
  return {
    kind: 'arc',
    centre,
    u: { x: radius, y: 0 },
    v: { x: 0, y: radius },
    from: Math.atan2(from.y - centre.y, from.x - centre.x),
    sweep: 4 * Math.atan(bulge),
  };
}

function spline(entity: DxfRecord, mmPerUnit: number, notes: Notes): Outline | null {
  const xs = numbers(entity, 10);
  const ys = numbers(entity, 20);
  const given = {
    degree: number(entity, 71, 3),
    knots: numbers(entity, 40),
    controls: xs.map((x, i) => ({ x, y: ys[i] ?? 0 })),
    weights: numbers(entity, 41),
  };
  if (given.controls.length === 0) {
    const fitYs = numbers(entity, 21);
    const through = throughPoints(numbers(entity, 11).map((x, i) => ({ x, y: fitYs[i] ?? NaN })));
    if (through) {
      notes.add('SPLINE read as a smooth curve through its fit points');
      return { ...through, closed: (number(entity, 70, 0) & 1) === 1 };
    }
  }
  if (!isSound(given)) {
    notes.add('SPLINE left out: it has no complete control points and knots, nor fit points');
    return null;
  }
  notes.add(`SPLINE read as lines within ${SPLINE_CHORD_MM} mm`);
  const xy = flattenSpline(given, SPLINE_CHORD_MM / mmPerUnit);
  const closed = (number(entity, 70, 0) & 1) === 1;
  return { start: { x: xy[0]!, y: xy[1]! }, segments: [{ kind: 'lines', xy: xy.slice(2) }], closed };
}
