import { applyAffine, compose, determinant, IDENTITY, type Affine, type Point } from '../../geometry';
import { accept, refuse, type Outcome } from '../../outcome';
import { ELEMENT_LIMIT, POINT_LIMIT } from '../limits';
import { Notes } from '../notes';
import { mapPath, pointsWorth, type Drawing, type DrawnPath, type Layer, type Segment } from '../drawing';

import { colourOfIndex } from './colours';
import { BadFigure, dxfRecords, number, numbers, text, type DxfRecord, type PairRefusal } from './pairs';
import { flattenSpline, isSound } from './spline';
import { throughPoints } from './throughPoints';

export type DxfRefusal =
  | PairRefusal
  | { readonly code: 'bad-figure'; readonly entity: string; readonly group: number; readonly value: string }
  | { readonly code: 'block-loop'; readonly name: string }
  | { readonly code: 'too-many-entities'; readonly limit: number }
  | { readonly code: 'too-many-points'; readonly limit: number }
  | { readonly code: 'nothing-to-cut' };

const NESTING_LIMIT = 32;
/** Splines become lines this close to themselves on reading, mm. */
const SPLINE_CHORD_MM = 0.001;

/** $INSUNITS to mm (DXF reference, HEADER; memory; the inch is exact). */
const UNIT_MM: Readonly<Record<number, number>> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 25.4e-6,
  9: 0.0254,
  10: 914.4,
  13: 0.001,
  14: 100,
};

class Stop extends Error {
  constructor(readonly refusal: DxfRefusal) {
    super(refusal.code);
  }
}

/**
 * Reads an ASCII DXF drawing, R12 and later.
 *
 * Reads    LINE, LWPOLYLINE and POLYLINE with bulges, ARC, CIRCLE, ELLIPSE, SPLINE, INSERT (rotated, scaled, in rows
 *          and columns, nested); layers and their colours; $INSUNITS.
 * Units    mm out; a file that names no unit is read as mm and says so.
 * Notes    every kind of entity that is not a line to cut, by name and count.
 * Refuses  what cannot be read or has no end: as values.
 */
export function readDxf(
  content: string,
  notes: Notes,
  onProgress: (share: number) => void = () => undefined,
): Outcome<Drawing, DxfRefusal> {
  const records = dxfRecords(content);
  if (!records.ok) return records;
  try {
    return accept(new Reader(records.value, notes, onProgress).read());
  } catch (error) {
    if (error instanceof Stop) return refuse(error.refusal);
    if (error instanceof BadFigure)
      return refuse({ code: 'bad-figure', entity: error.entity, group: error.group, value: error.value });
    throw error;
  }
}

interface Block {
  readonly base: Point;
  readonly entities: readonly DxfRecord[];
}

interface Context {
  /** Entity units → mm. */
  readonly map: Affine;
  readonly layer: string | null;
  readonly colour: string | null;
  readonly within: readonly string[];
}

class Reader {
  private readonly blocks = new Map<string, Block>();
  private readonly layers = new Map<string, Layer>();
  private readonly paths: DrawnPath[] = [];
  private entities: DxfRecord[] = [];
  private unitMm = 1;
  private count = 0;
  private points = 0;

  constructor(
    private readonly records: readonly DxfRecord[],
    private readonly notes: Notes,
    private readonly onProgress: (share: number) => void,
  ) {}

  read(): Drawing {
    this.sort();
    const map = { ...IDENTITY, a11: this.unitMm, a22: this.unitMm };
    this.draw(this.entities, { map, layer: null, colour: null, within: [] });
    if (this.paths.length === 0) throw new Stop({ code: 'nothing-to-cut' });
    for (const path of this.paths)
      if (!this.layers.has(path.layer)) this.layers.set(path.layer, { name: path.layer, colour: null });
    return { paths: this.paths, layers: [...this.layers.values()], page: null, unitMm: this.unitMm };
  }

  /** Takes sections apart: units, layers, blocks, entities. */
  private sort(): void {
    let section = '';
    let block: { name: string; base: Point; entities: DxfRecord[] } | null = null;
    for (const record of this.records) {
      if (record.type === 'SECTION') {
        section = text(record, 2)?.toUpperCase() ?? '';
        if (section === 'HEADER') this.header(record);
      } else if (record.type === 'ENDSEC') section = '';
      else if (section === 'TABLES' && record.type === 'LAYER') this.layer(record);
      else if (section === 'BLOCKS' && record.type === 'BLOCK')
        block = {
          name: text(record, 2) ?? '',
          base: { x: number(record, 10, 0), y: number(record, 20, 0) },
          entities: [],
        };
      else if (section === 'BLOCKS' && record.type === 'ENDBLK') {
        if (block) this.blocks.set(block.name.toUpperCase(), block);
        block = null;
      } else if (section === 'BLOCKS') block?.entities.push(record);
      else if (section === 'ENTITIES') this.entities.push(record);
    }
  }

  private header(record: DxfRecord): void {
    const variable = (name: string): number | null => {
      const at = record.values.findIndex((v, i) => record.codes[i] === 9 && v.trim().toUpperCase() === name);
      const value = at < 0 ? Number.NaN : Number(record.values[at + 1]);
      return Number.isFinite(value) ? value : null;
    };
    const unit = variable('$INSUNITS');
    const known = unit === null ? undefined : UNIT_MM[unit];
    if (known !== undefined) this.unitMm = known;
    else if (variable('$MEASUREMENT') === 0) {
      this.unitMm = 25.4;
      this.notes.add('the file names no unit, only that it is not metric: read as inches');
    } else this.notes.add('the file names no unit: read as mm');
  }

  private layer(record: DxfRecord): void {
    const name = text(record, 2) ?? '0';
    // A layer that is switched off has its colour negative.
    this.layers.set(name, { name, colour: colourOfIndex(Math.abs(number(record, 62, 7))) });
  }

  private draw(entities: readonly DxfRecord[], context: Context): void {
    for (let i = 0; i < entities.length; i += 1) {
      this.count += 1;
      if (this.count > ELEMENT_LIMIT) throw new Stop({ code: 'too-many-entities', limit: ELEMENT_LIMIT });
      if (this.count % 2000 === 0) this.onProgress(context.within.length === 0 ? i / entities.length : 0.5);
      const entity = entities[i]!;
      let parts: DxfRecord[] = [];
      if (entity.type === 'POLYLINE' || (entity.type === 'INSERT' && number(entity, 66, 0) === 1)) {
        const end = endOf(entities, i + 1);
        parts = entities.slice(i + 1, end < 0 ? entities.length : end);
        i = end < 0 ? entities.length : end;
      }
      this.entity(entity, parts, context);
    }
  }

  private entity(entity: DxfRecord, parts: readonly DxfRecord[], context: Context): void {
    if (number(entity, 67, 0) === 1) return this.notes.add('left out: drawn on a paper layout');
    const tilt = number(entity, 230, 1);
    if (Math.abs(Math.abs(tilt) - 1) > 1e-6)
      return this.notes.add(`${entity.type} left out: drawn in another plane`);
    if (entity.type === 'INSERT') return this.insert(entity, tilt, context);
    const drawn = outline(entity, parts, tilt, this.unitMm * stretch(context.map), this.notes);
    if (!drawn) return;
    const path = { ...drawn, ...this.style(entity, context), pen: null };
    this.points += pointsWorth(path);
    if (this.points > POINT_LIMIT) throw new Stop({ code: 'too-many-points', limit: POINT_LIMIT });
    this.paths.push(mapPath(path, { kind: 'affine', ...context.map }));
  }

  private style(entity: DxfRecord, context: Context): { layer: string; colour: string | null } {
    const own = text(entity, 8) ?? '0';
    const layer = own === '0' && context.layer !== null ? context.layer : own;
    const index = number(entity, 62, 256);
    // 0: as the block is drawn; 256: as its layer.
    const colour = index === 0 ? context.colour : index === 256 ? null : colourOfIndex(Math.abs(index));
    return { layer, colour };
  }

  private insert(entity: DxfRecord, tilt: number, context: Context): void {
    const name = (text(entity, 2) ?? '').toUpperCase();
    const block = this.blocks.get(name);
    if (!block) return this.notes.add(`INSERT left out: block “${name.slice(0, 40)}” is not in the file`);
    if (context.within.includes(name) || context.within.length >= NESTING_LIMIT)
      throw new Stop({ code: 'block-loop', name: name.slice(0, 40) });
    const turn = (number(entity, 50, 0) * Math.PI) / 180;
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    const [sx, sy] = [number(entity, 41, 1), number(entity, 42, 1)];
    const columns = Math.max(1, number(entity, 70, 1));
    const rows = Math.max(1, number(entity, 71, 1));
    if (sx === 0 || sy === 0) return this.notes.add('INSERT left out: scaled to nothing');
    if (columns * rows > ELEMENT_LIMIT) throw new Stop({ code: 'too-many-entities', limit: ELEMENT_LIMIT });
    const mirror: Affine = { ...IDENTITY, a11: tilt < 0 ? -1 : 1 };
    for (let row = 0; row < rows; row += 1)
      for (let column = 0; column < columns; column += 1) {
        const away = applyAffine(
          { a11: cos, a12: -sin, a21: sin, a22: cos, tx: 0, ty: 0 },
          { x: column * number(entity, 44, 0), y: row * number(entity, 45, 0) },
        );
        const placed: Affine = {
          a11: cos * sx,
          a12: -sin * sy,
          a21: sin * sx,
          a22: cos * sy,
          tx: number(entity, 10, 0) + away.x,
          ty: number(entity, 20, 0) + away.y,
        };
        const own = compose(placed, { ...IDENTITY, tx: -block.base.x, ty: -block.base.y });
        this.notes.add('copies of blocks written out in place');
        this.draw(block.entities, {
          map: compose(context.map, compose(mirror, own)),
          ...this.style(entity, context),
          within: [...context.within, name],
        });
      }
  }
}

/** The SEQEND from here on; without one, parts are its own kind of record and no more. */
function endOf(entities: readonly DxfRecord[], from: number): number {
  for (let i = from; i < entities.length; i += 1) {
    const { type } = entities[i]!;
    if (type === 'SEQEND') return i;
    if (type !== 'VERTEX' && type !== 'ATTRIB') return i - 1;
  }
  return -1;
}

const stretch = (map: Affine): number => Math.sqrt(Math.abs(determinant(map))) || 1;

type Outline = Pick<DrawnPath, 'start' | 'segments' | 'closed'>;

/** An entity's geometry in its own units; null, with a note, for what is not a line to cut. */
function outline(
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
      const whole = Math.abs(Math.abs(to - from) - 2 * Math.PI) < 1e-9;
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
    if (Math.abs(from.bulge) < 1e-12 || (from.x === to.x && from.y === to.y)) run.push(to.x, to.y);
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
