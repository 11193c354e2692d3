export { correctSvg, type CorrectedSvg, type SvgRefusal } from './correctSvg';
export { drawingToSvg } from './drawingToSvg';
export { pathData } from './pathData';
export { escapeXml, sceneToSvg } from './sceneToSvg';
export { svgRefusalText } from './svgRefusals';
