export { correctSvg, type CorrectedSvg } from './correctSvg';
export type { SvgRefusal } from './elements';
export { drawingToSvg } from './drawingToSvg';
export { pathData } from './pathData';
export { escapeXml, sceneToSvg } from './sceneToSvg';
export { svgRefusalText } from './svgRefusals';
