import { mapPath, type Drawing, type DrawnPath } from '..';
import type { Rect } from '../../geometry';
import { colourOf } from '../ink';
import type { DrawnWords, PageDrawing } from '../model';
import { Notes } from '../notes';

import { escapeXml } from './escapeXml';
import { pathData } from './pathData';

/** Lines drawn where the file gives no colour. */
const PLAIN = '#000000';
const PLACES = 4;
/** Less than this below zero nobody sees, mm. */
const BELOW_MM = 0.02;
const figure = (mm: number): string => String(Number((mm + 0).toFixed(2)));
const size = (mm: number): string => String(Number(Math.max(mm, 0.001).toFixed(PLACES)));
const number = (mm: number): string => String(Number(mm.toFixed(PLACES)));

/**
 * A drawing as an SVG page: one user unit is 1 mm, y turned over, a group a layer (W3C SVG 2, 8; figures to 0.0001 mm). The
 * page’s lower-left corner is the drawing’s zero, whatever lies below it: a cutter takes its places from there. Without a page
 * of its own it ends where the drawing does.
 */
export function writeSvg(drawing: Drawing, bounds: Rect, notes: Notes): string {
  const { page, title, words = [] } = drawing;
  if (Math.min(bounds.x0, bounds.y0) < -BELOW_MM)
    notes.add(
      `something lies outside the SVG’s page, whose corner is zero: ${figure(-Math.min(bounds.x0, 0))} mm left of it, ${figure(-Math.min(bounds.y0, 0))} mm under it; many cutters leave that out`,
    );
  if (drawing.paths.some((path) => path.device)) notes.add('speed and force commands left out: SVG has none');
  const width = page ? page.widthMm : Math.max(bounds.x1, 0);
  const height = page ? page.heightMm : Math.max(bounds.y1, 0);
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
    const stroke = colour ?? colourOf(own[0]!) ?? PLAIN;
    const body = own.map((path) => pathTag(path, stroke, height));
    return `<g id="${escapeXml(idOf(name))}" stroke="${stroke}">\n<title>${escapeXml(name)}</title>\n${body.join('\n')}\n</g>\n`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${size(width)}mm" height="${size(height)}mm" viewBox="0 0 ${size(width)} ${size(height)}" fill="none" stroke-width="0.1" overflow="visible">
${title === undefined ? '' : `<title>${escapeXml(title)}</title>\n`}${groups.join('')}${words.map((w) => `${wordsTag(w, height)}\n`).join('')}</svg>
`;
}

/** A page that the product draws, for a picture or a print. */
export const pageSvg = (drawing: PageDrawing): string =>
  writeSvg(drawing, { x0: 0, y0: 0, x1: drawing.page.widthMm, y1: drawing.page.heightMm }, new Notes());

/** The same as an address of a picture. */
export const pageSvgUrl = (drawing: PageDrawing): string =>
  `data:image/svg+xml;utf8,${encodeURIComponent(pageSvg(drawing))}`;

function pathTag(path: DrawnPath, ofGroup: string, height: number): string {
  const toPage = { kind: 'affine', a11: 1, a12: 0, a21: 0, a22: -1, tx: 0, ty: height } as const;
  const d = pathData(mapPath(path, toPage), PLACES);
  const colour = colourOf(path) ?? ofGroup;
  if (path.paint?.fill) return `<path d="${d}" fill="${colour}" stroke="none"/>`;
  const stroke = colour === ofGroup ? '' : ` stroke="${colour}"`;
  const width = path.paint ? ` stroke-width="${number(path.paint.widthMm)}"` : '';
  return `<path d="${d}"${stroke}${width}/>`;
}

function wordsTag(words: DrawnWords, height: number): string {
  const [x, y] = [number(words.at.x), number(height - words.at.y)];
  const turn = words.turnDeg ? ` transform="rotate(${-words.turnDeg} ${x} ${y})"` : '';
  const weight = words.bold ? ' font-weight="bold"' : '';
  return `<text x="${x}" y="${y}" font-family="Atkinson Hyperlegible Next, Helvetica, Arial, sans-serif" font-size="${number(words.sizeMm)}" text-anchor="${words.anchor}"${weight}${turn} fill="${colourOf(words)}">${escapeXml(words.text)}</text>`;
}

const idOf = (name: string): string => `layer-${name.replace(/[^A-Za-z0-9_-]+/g, '_').slice(0, 40)}`;
