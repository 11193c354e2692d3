import { flatten, type Drawing } from '..';
import type { Notes } from '../notes';

import { HPGL_UNIT_MM } from './frame';

/** Curves become lines this close to themselves, mm: under half a plotter unit. */
export const HPGL_CHORD_MM = 0.005;

/** So many layers are named in the report. */
const MOST_NAMED = 12;

/**
 * Writes HP-GL: absolute plotter units, a pen a layer (or the pens as they were). Each place is rounded by itself,
 * so that errors do not add up: at most half a plotter unit on each axis.
 */
export function writeHpgl(drawing: Drawing, notes: Notes): string {
  const order = [...new Set(drawing.paths.map((p) => p.layer))];
  const own = drawing.paths.every((p) => p.pen !== null);
  const pens = new Map(order.map((name, i) => [name, i + 1]));
  const penOf = (layer: string, pen: number | null): number => (own ? pen! : pens.get(layer)!);
  if (!own && order.length > 1)
    notes.add(
      `layers became pens: ${order
        .slice(0, MOST_NAMED)
        .map((name, i) => `${name.slice(0, 30)} is pen ${i + 1}`)
        .join(', ')}${order.length > MOST_NAMED ? ', and so on' : ''}`,
    );
  const parts = ['IN;'];
  let pen: number | null = null;
  for (const path of drawing.paths) {
    const next = penOf(path.layer, path.pen);
    if (next !== pen) parts.push(`SP${next};`);
    pen = next;
    if (path.device) parts.push(path.device);
    const xy = flatten(path, HPGL_CHORD_MM);
    const units = xy.map((mm) => Math.round(mm / HPGL_UNIT_MM) + 0);
    parts.push(`PU${units[0]},${units[1]};PD`);
    const drawn: number[] = [];
    for (let i = 2; i < units.length; i += 2)
      // Rounding makes neighbours coincide; a knife has no use for a move of nothing.
      if (units[i] !== units[i - 2] || units[i + 1] !== units[i - 1] || units.length === 4)
        drawn.push(units[i]!, units[i + 1]!);
    parts.push(`${drawn.join(',')};`);
  }
  parts.push('PU;SP0;\n');
  return parts.join('');
}
