import type { Rect } from '../../geometry';
import { mapPath, type Drawing, type DrawnPath } from '../drawing';
import type { Notes } from '../notes';

import { pathData } from './pathData';
import { escapeXml } from './sceneToSvg';

/** Lines drawn where the file gives no colour. */
const PLAIN = '#000000';
const PLACES = 4;

/**
 * A drawing as an SVG page in mm, a group a layer. Without a page of its own the page is what is drawn, from the
 * lower-left corner of its bounds or from the origin, whichever is lower: `shift` says how far it had to move.
 */
export function drawingToSvg(drawing: Drawing, bounds: Rect, notes: Notes): string {
  const page = drawing.page;
  const x0 = page ? 0 : Math.min(0, bounds.x0);
  const y0 = page ? 0 : Math.min(0, bounds.y0);
  if (x0 < 0 || y0 < 0)
    notes.add(
      `the page starts at (${x0.toFixed(3)}, ${y0.toFixed(3)}) mm of the file, because something is drawn left of or below its origin`,
    );
  const width = page ? page.widthMm : bounds.x1 - x0;
  const height = page ? page.heightMm : bounds.y1 - y0;
  const toPage = { kind: 'affine', a11: 1, a12: 0, a21: 0, a22: -1, tx: -x0, ty: height + y0 } as const;
  const byLayer = new Map<string, DrawnPath[]>();
  for (const path of drawing.paths) {
    const own = byLayer.get(path.layer);
    if (own) own.push(path);
    else byLayer.set(path.layer, [path]);
  }
  const groups = drawing.layers.map(({ name, colour }) => {
    const own = byLayer.get(name);
    if (!own) return '';
    byLayer.delete(name);
    const body = own.map((path) => {
      const stroke = path.colour && path.colour !== colour ? ` stroke="${path.colour}"` : '';
      if (path.device) notes.add('speed and force commands left out: SVG has none');
      return `<path d="${pathData(mapPath(path, toPage), PLACES)}"${stroke}/>`;
    });
    return `<g id="${escapeXml(idOf(name))}" stroke="${colour ?? PLAIN}">\n<title>${escapeXml(name)}</title>\n${body.join('\n')}\n</g>\n`;
  });
  const size = (mm: number): string => String(Number(Math.max(mm, 0.001).toFixed(PLACES)));
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${size(width)}mm" height="${size(height)}mm" viewBox="0 0 ${size(width)} ${size(height)}" fill="none" stroke-width="0.1">
${groups.join('')}</svg>
`;
}

const idOf = (name: string): string => `layer-${name.replace(/[^A-Za-z0-9_-]+/g, '_').slice(0, 40)}`;
