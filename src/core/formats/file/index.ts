export { correctFile, FILE_CORRECTION_VERSION, readCutFile, writeCutFile, writeDrawing } from './correctFile';
export { type CorrectedFile, type FileRefusal, type FileReport, type MovedOutline } from './report';
export { formatOf } from './soundness';
export { CUT_FORMATS, type CutFormat } from './cutFormat';
export { fileRefusalText } from './fileRefusals';
export { FILE_LIMIT_BYTES } from '../limits';
export { textOf } from './textOf';
export { sceneToDrawing } from './sceneToDrawing';
