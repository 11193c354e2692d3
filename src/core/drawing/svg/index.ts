export { correctSvg, type CorrectedSvg } from './correctSvg';
export type { SvgRefusal } from './elements';
export { escapeXml } from './escapeXml';
export { pathData } from './pathData';
export { svgRefusalText } from './svgRefusals';
export { pageSvg, pageSvgUrl, writeSvg } from './writeSvg';
