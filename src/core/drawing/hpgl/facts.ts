import { formatFacts } from '../format';

export const HPGL_FACTS = formatFacts({
  name: 'hpgl',
  label: 'HPGL',
  suffixes: ['.hpgl', '.hpg', '.hgl', '.plt'],
  mediaType: 'application/vnd.hp-hpgl',
  cornerIsZero: false,
  layerStates: false,
});
