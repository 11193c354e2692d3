import type { Rect } from '../../geometry';
import { mapPath, type Drawing, type DrawnPath } from '../drawing';
import type { Notes } from '../notes';

import { pathData } from './pathData';
import { escapeXml } from './sceneToSvg';

/** Lines drawn where the file gives no colour. */
const PLAIN = '#000000';
const PLACES = 4;
/** Less than this below zero nobody sees, mm. */
const BELOW_MM = 0.02;
const figure = (mm: number): string => String(Number((mm + 0).toFixed(2)));

/**
 * A drawing as an SVG page in mm, a group a layer. The page’s lower-left corner is the drawing’s zero, whatever lies below
 * it: a cutter takes its places from there. Without a page of its own it ends where the drawing does.
 */
export function drawingToSvg(drawing: Drawing, bounds: Rect, notes: Notes): string {
  const { page } = drawing;
  if (Math.min(bounds.x0, bounds.y0) < -BELOW_MM)
    notes.add(
      `something lies outside the SVG’s page, whose corner is zero: ${figure(-Math.min(bounds.x0, 0))} mm left of it, ${figure(-Math.min(bounds.y0, 0))} mm under it; many cutters leave that out`,
    );
  const width = page ? page.widthMm : Math.max(bounds.x1, 0);
  const height = page ? page.heightMm : Math.max(bounds.y1, 0);
  const toPage = { kind: 'affine', a11: 1, a12: 0, a21: 0, a22: -1, tx: 0, ty: height } as const;
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
<svg xmlns="http://www.w3.org/2000/svg" width="${size(width)}mm" height="${size(height)}mm" viewBox="0 0 ${size(width)} ${size(height)}" fill="none" stroke-width="0.1" overflow="visible">
${groups.join('')}</svg>
`;
}

const idOf = (name: string): string => `layer-${name.replace(/[^A-Za-z0-9_-]+/g, '_').slice(0, 40)}`;
