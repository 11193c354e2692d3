export { correctFile, FILE_CORRECTION_VERSION, readCutFile, writeDrawing } from './correctFile';
export { type CorrectedFile, type FileRefusal, type FileReport, type MovedOutline } from './report';
export { formatOf } from './soundness';
export { CUT_FILE_FORMATS } from '../registry';
export { fileRefusalText } from './fileRefusals';
export { FILE_LIMIT_BYTES } from '../limits';
export { textOf } from './textOf';
