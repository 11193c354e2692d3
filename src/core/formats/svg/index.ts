export { correctSvg, type CorrectedSvg, type MovedPath, type SvgRefusal, type SvgReport } from './correctSvg';
export { sceneToSvg } from './sceneToSvg';
export { svgRefusalText } from './svgRefusals';
