import { formatFacts } from '../format';

export const SVG_FACTS = formatFacts({
  name: 'svg',
  label: 'SVG',
  suffixes: ['.svg'],
  mediaType: 'image/svg+xml',
  cornerIsZero: true,
  layerStates: false,
});
