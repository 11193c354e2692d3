import { type Affine, applyAffine, compose, IDENTITY, type Point } from '../../geometry';
import { accept, type Outcome, refuse } from '../../outcome';
import { CutLines, type Drawing, mapPath, type NotCut } from '..';
import { ELEMENT_LIMIT, POINT_LIMIT } from '../limits';
import { Notes } from '../notes';

import { colourOfIndex } from './colours';
import { Layers } from './layers';
import { outline, stretch } from './outlines';
import { BadFigure, type DxfRecord, dxfRecords, number, type PairRefusal, text } from './pairs';

/** An extrusion this close to ±1 along z is flat. */
const UPRIGHT = 1e-6;

export type DxfRefusal =
  | PairRefusal
  | { readonly code: 'bad-figure'; readonly entity: string; readonly group: number; readonly value: string }
  | { readonly code: 'block-loop'; readonly name: string }
  | { readonly code: 'too-many-entities'; readonly limit: number }
  | { readonly code: 'too-many-points'; readonly limit: number }
  | { readonly code: 'nothing-to-cut'; readonly uncut: number };

const NESTING_LIMIT = 32;

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
 * Cuts     what is seen: nothing of a layer that is off, frozen or not plotted, nothing invisible, unless the layer is in
 *          `cutAll` (group 62 < 0, 70 bit 1, 290, 60; DXF reference, LAYER and common group codes; memory).
 * Units    mm out; a file that names no unit is read as mm and says so.
 * Notes    every kind of entity that is not a line to cut, by name and count.
 * Refuses  what cannot be read or has no end: as values.
 */
export function readDxf(
  content: string,
  notes: Notes,
  onProgress: (share: number) => void = () => undefined,
  cutAll: ReadonlySet<string> = new Set(),
): Outcome<Drawing, DxfRefusal> {
  const records = dxfRecords(content);
  if (!records.ok) return records;
  try {
    return accept(new Reader(records.value, notes, onProgress, cutAll).read());
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
  /** Of a copy of a block that is itself not seen: then nothing of it is. */
  readonly unseen: NotCut | null;
}

class Reader {
  private readonly blocks = new Map<string, Block>();
  private readonly layers: Layers;
  private readonly lines = new CutLines();
  private entities: DxfRecord[] = [];
  private unitMm = 1;
  private count = 0;

  constructor(
    private readonly records: readonly DxfRecord[],
    private readonly notes: Notes,
    private readonly onProgress: (share: number) => void,
    cutAll: ReadonlySet<string>,
  ) {
    this.layers = new Layers(cutAll);
  }

  read(): Drawing {
    this.sort();
    const map = { ...IDENTITY, a11: this.unitMm, a22: this.unitMm };
    this.draw(this.entities, { map, layer: null, colour: null, within: [], unseen: null });
    const { paths, uncut } = this.lines;
    if (paths.length === 0) throw new Stop({ code: 'nothing-to-cut', uncut: uncut.length });
    return {
      paths,
      layers: this.layers.all([...paths, ...uncut]),
      uncut,
      leftUncut: this.lines.leftUncut(this.notes),
      page: null,
      unitMm: this.unitMm,
    };
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
      else if (section === 'TABLES' && record.type === 'LAYER') this.layers.take(record);
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
    if (Math.abs(Math.abs(tilt) - 1) > UPRIGHT)
      return this.notes.add(`${entity.type} left out: drawn in another plane`);
    if (entity.type === 'INSERT') return this.insert(entity, tilt, context);
    const drawn = outline(entity, parts, tilt, this.unitMm * stretch(context.map), this.notes);
    if (!drawn) return;
    const style = this.style(entity, context);
    const why = this.layers.notCut(entity, style.layer, context.unseen);
    // What its layer does not keep from being cut says so itself.
    const invisible = why === 'invisible' || (why !== null && !this.layers.keepsBack(style.layer));
    const path = { ...drawn, ...style, pen: null, ...(invisible ? { invisible } : {}) };
    if (!this.lines.add(mapPath(path, { kind: 'affine', ...context.map }), why))
      throw new Stop({ code: 'too-many-points', limit: POINT_LIMIT });
  }

  private style(entity: DxfRecord, context: Context): { layer: string; colour: string | null } {
    const own = text(entity, 8) ?? '0';
    const meant = own === '0' && context.layer !== null ? context.layer : own;
    const layer = this.layers.of(meant).name ?? meant;
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
    const style = this.style(entity, context);
    const unseen = this.layers.copyNotCut(entity, style.layer, context.unseen);
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
          ...style,
          unseen,
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
