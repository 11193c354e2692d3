import { colourOf, type Mark, type Scene } from '../../drawing';
import type { Point } from '../../geometry';

/**
 * A scene as an SVG page in millimetres: one user unit is 1 mm, y turned over.
 * Source: W3C SVG 2, 8 (viewBox); numbers to 0.0001 mm.
 */
export function sceneToSvg(scene: Scene): string {
  const { widthMm: w, heightMm: h } = scene;
  const flip = (p: Point): string => `${number(p.x)} ${number(h - p.y)}`;
  const body = scene.marks.map((mark) => markToSvg(mark, flip, h)).join('\n');
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${number(w)}mm" height="${number(h)}mm" viewBox="0 0 ${number(w)} ${number(h)}">
<title>${escapeXml(scene.title)}</title>
${body}
</svg>
`;
}

function markToSvg(mark: Mark, flip: (p: Point) => string, height: number): string {
  const colour = colourOf(mark);
  switch (mark.kind) {
    case 'line':
      return `<path d="M${flip(mark.from)} L${flip(mark.to)}" fill="none" stroke="${colour}" stroke-width="${number(mark.widthMm)}"/>`;
    case 'disc':
      return `<circle cx="${number(mark.centre.x)}" cy="${number(height - mark.centre.y)}" r="${number(mark.radiusMm)}" fill="${colour}"/>`;
    case 'ring':
      return `<circle cx="${number(mark.centre.x)}" cy="${number(height - mark.centre.y)}" r="${number(mark.radiusMm)}" fill="none" stroke="${colour}" stroke-width="${number(mark.widthMm)}"/>`;
    case 'polygon': {
      const d = `M${mark.points.map(flip).join(' L')} Z`;
      return mark.filled
        ? `<path d="${d}" fill="${colour}"/>`
        : `<path d="${d}" fill="none" stroke="${colour}" stroke-width="${number(mark.widthMm)}"/>`;
    }
    case 'text': {
      const [x, y] = flip(mark.at).split(' ');
      const turn = mark.turnDeg ? ` transform="rotate(${-mark.turnDeg} ${x} ${y})"` : '';
      const weight = mark.bold ? ' font-weight="bold"' : '';
      return `<text x="${x}" y="${y}" font-family="Atkinson Hyperlegible Next, Helvetica, Arial, sans-serif" font-size="${number(mark.sizeMm)}" text-anchor="${mark.anchor}"${weight}${turn} fill="${colour}">${escapeXml(mark.text)}</text>`;
    }
    default:
      return mark satisfies never;
  }
}

const number = (value: number): string => String(Number(value.toFixed(4)));

/** Words for a text or an attribute: without what no XML file may hold (XML 1.0, 2.2), also half of a pair. */
export const escapeXml = (words: string): string =>
  words
    .replace(/\p{Surrogate}/gu, '\ufffd')
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
