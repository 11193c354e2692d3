import { formatFacts } from '../format';

export const DXF_FACTS = formatFacts({
  name: 'dxf',
  label: 'DXF',
  suffixes: ['.dxf'],
  mediaType: 'image/vnd.dxf',
  cornerIsZero: false,
  layerStates: true,
});
