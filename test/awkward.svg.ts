/** A cut file with everything that goes wrong: units, viewBox offset, nesting, use, symbols, every shape. */
export const AWKWARD_SVG = `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="8in" height="180mm" viewBox="-10 5 406.4 360">
  <!-- drawn for the tests -->
  <title>Luggage tag</title>
  <defs>
    <path id="tag" d="M0 0h40v20a6 6 0 0 1-6 6H6q-6 0-6-6z"/>
    <symbol id="hull" viewBox="0 0 10 5" preserveAspectRatio="xMinYMax meet"><rect width="10" height="5" rx="1"/></symbol>
    <circle id="never" r="3"/>
    <linearGradient id="sea"><stop offset="0" stop-color="#88a"/></linearGradient>
  </defs>
  <g id="cut" transform="translate(20 30) rotate(12)" stroke="#a0a" stroke-width=".5" fill="none">
    <g transform="skewX(8) scale(1.5 -.8)">
      <path d="M10 10 c5-8 12-8 18 0 s12 8 18 0 t9 4 T90 0 A12 7 30 1 0 100 -20 Z m2 2 l3 0 0 3z"/>
      <rect x="5" y="-60" width="30" height="14" rx="4"/>
    </g>
    <use xlink:href="#tag" x="60" y="80" transform="scale(1.2)"/>
    <use href="#hull" x="150" y="20" width="40" height="40"/>
    <ellipse cx="200" cy="120" rx="18" ry="9" transform="rotate(-33 200 120)"/>
    <circle cx="80" cy="200" r="6"/>
    <line x1="0" y1="150" x2="10mm" y2="160"/>
    <polyline points="0,170 20,175 40,168"/>
    <polygon points="100 230 120 250 90 260"/>
  </g>
  <svg x="250" y="200" width="100" height="50" viewBox="0 0 20 20"><path d="M2 2 L18 2 18 18z"/></svg>
  <text x="30" y="300">Skerrow Line</text>
</svg>
`;
