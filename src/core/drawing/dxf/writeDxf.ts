import type { Notes } from '../notes';
import { circleOf, flatten, type Drawing, type Layer } from '..';

import { indexOfColour } from './colours';
import { NEVER_PLOTTED } from './layers';

/** Curves become lines this close to themselves, mm: far below a knife's step. */
export const DXF_CHORD_MM = 0.002;

/** The unit numbers of $INSUNITS that are written back as they were read. */
const UNIT_NUMBERS: readonly (readonly [number, number])[] = [
  [25.4, 1],
  [304.8, 2],
  [1, 4],
  [10, 5],
  [1000, 6],
];

/**
 * Writes ASCII DXF of the oldest kind that everything reads (R12): LINE, POLYLINE, CIRCLE, layers with colours.
 * What was there but not cut is written as it was: layers off or frozen, entities invisible.
 * In the file's own unit, named in $INSUNITS. Curves other than circles become lines within DXF_CHORD_MM.
 */
export function writeDxf(drawing: Drawing, notes: Notes): string {
  const [unitMm, unitNumber] = UNIT_NUMBERS.find(([mm]) => mm === drawing.unitMm) ?? [1, 4];
  const places = unitMm >= 25.4 ? 7 : 6;
  const figure = (mm: number): string => Number((mm / unitMm).toFixed(places)).toString();
  const out: string[] = [];
  const put = (...pairs: (string | number)[]): void => void out.push(pairs.join('\n'));
  if (drawing.title !== undefined) put(999, drawing.title.replace(/[^\x20-\x7e]/g, '-'));
  put(0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1009', 9, '$INSUNITS', 70, unitNumber, 0, 'ENDSEC');
  const layers = drawing.layers.length > 0 ? drawing.layers : [{ name: '0', colour: null }];
  const names = layerNames(layers);
  put(0, 'SECTION', 2, 'TABLES', 0, 'TABLE', 2, 'LAYER', 70, layers.length);
  for (const { name, colour, off, frozen, unplotted } of layers) {
    const index = colour ? indexOfColour(colour) : 7;
    put(0, 'LAYER', 2, names.get(name)!, 70, frozen ? 1 : 0);
    put(62, off || unplotted ? -index : index, 6, 'CONTINUOUS');
    if (unplotted && !off && !frozen)
      notes.add(
        `layer “${name.slice(0, 40)}” is not plotted; this kind of DXF has no word for it: switched off`,
      );
  }
  put(0, 'ENDTAB', 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES');
  for (const path of [...drawing.paths, ...(drawing.uncut ?? [])]) {
    const colour = path.colour ? [62, indexOfColour(path.colour)] : [];
    const unseen = path.invisible ? [60, 1] : [];
    const style = [8, names.get(path.layer) ?? '0', ...unseen, ...colour];
    const circle = circleOf(path);
    if (circle) {
      put(0, 'CIRCLE', ...style, 10, figure(circle.centre.x), 20, figure(circle.centre.y), 30, 0);
      put(40, figure(circle.radius));
      continue;
    }
    if (path.segments.some((s) => s.kind !== 'lines'))
      notes.add(`curves written as lines within ${DXF_CHORD_MM} mm`);
    if (path.device) notes.add('speed and force commands left out: DXF has none');
    const xy = flatten(path, DXF_CHORD_MM);
    if (xy.length === 4 && !path.closed) {
      put(0, 'LINE', ...style, 10, figure(xy[0]!), 20, figure(xy[1]!), 30, 0);
      put(11, figure(xy[2]!), 21, figure(xy[3]!), 31, 0);
      continue;
    }
    // The closing point of a closed polyline is its flag, not a vertex.
    const end = path.closed && xy.length > 4 ? xy.length - 2 : xy.length;
    put(0, 'POLYLINE', ...style, 66, 1, 70, path.closed ? 1 : 0, 10, 0, 20, 0, 30, 0);
    for (let i = 0; i < end; i += 2)
      put(0, 'VERTEX', 8, style[1]!, 10, figure(xy[i]!), 20, figure(xy[i + 1]!), 30, 0);
    put(0, 'SEQEND', 8, style[1]!);
  }
  put(0, 'ENDSEC', 0, 'EOF');
  return `${out.join('\n')}\n`;
}

/** Layer names as R12 takes them: 31 letters, digits, $, - and _; kept apart when that makes two alike. */
function layerNames(layers: readonly Layer[]): Map<string, string> {
  const taken = new Set<string>();
  const written = new Map<string, string>();
  /** Where counting goes on, so that a crowd of alike names is not counted from the start each time. */
  const next = new Map<string, number>();
  for (const { name, unplotted } of layers) {
    // Whoever reads it plots nothing of this name: what is to be cut all the same gets another.
    const meant = name.toUpperCase() === NEVER_PLOTTED && !unplotted ? `${name}_cut` : name;
    const plain = meant.replace(/[^A-Za-z0-9$_-]+/g, '_').slice(0, 28) || '0';
    let candidate = plain;
    let i = next.get(plain) ?? 2;
    for (; taken.has(candidate.toUpperCase()); i += 1) candidate = `${plain.slice(0, 24)}_${i}`;
    next.set(plain, i);
    taken.add(candidate.toUpperCase());
    written.set(name, candidate);
  }
  return written;
}
