import type { Line } from './machine/readers';

/* Cut files as another program writes them: straight lines, mm, in whatever frame they are given. */

export type Writer = (lines: readonly Line[]) => string;

const PAGE_MM = 500;

/** y down from the page's upper edge, as SVG has it; the page's lower-left corner is the zero. */
export const asSvg: Writer = (lines) => {
  const d = lines.map(([x0, y0, x1, y1]) => `<path d="M${x0} ${PAGE_MM - y0}L${x1} ${PAGE_MM - y1}"/>`);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${PAGE_MM}mm" height="${PAGE_MM}mm" viewBox="0 0 ${PAGE_MM} ${PAGE_MM}" fill="none" stroke="black">${d.join('')}</svg>`;
};

export const asDxf: Writer = (lines) =>
  [
    ...[
      '0',
      'SECTION',
      '2',
      'HEADER',
      '9',
      '$INSUNITS',
      '70',
      '4',
      '0',
      'ENDSEC',
      '0',
      'SECTION',
      '2',
      'ENTITIES',
    ],
    ...lines.flatMap(([x0, y0, x1, y1]) => ['0', 'LINE', '8', 'cut', '10', x0, '20', y0, '11', x1, '21', y1]),
    ...['0', 'ENDSEC', '0', 'EOF', ''],
  ].join('\n');

/** A fortieth of a millimetre is its unit. */
export const asHpgl: Writer = (lines) =>
  `IN;SP1;${lines.map(([x0, y0, x1, y1]) => `PU${40 * x0},${40 * y0};PD${40 * x1},${40 * y1};`).join('')}PU;`;

/** A mark drawn as a square of its size, line by line. */
export const squareAt = (x: number, y: number, sizeMm: number): Line[] => {
  const h = sizeMm / 2;
  return [
    [x - h, y - h, x + h, y - h],
    [x + h, y - h, x + h, y + h],
    [x + h, y + h, x - h, y + h],
    [x - h, y + h, x - h, y - h],
  ];
};
