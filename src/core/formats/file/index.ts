export {
  correctFile,
  CUT_FORMATS,
  FILE_CORRECTION_VERSION,
  formatOf,
  readCutFile,
  writeCutFile,
  type CorrectedFile,
  type CutFormat,
  type FileRefusal,
  type FileReport,
  type MovedOutline,
} from './correctFile';
export { fileRefusalText } from './fileRefusals';
export { FILE_LIMIT_BYTES } from '../limits';
export { sceneToDrawing } from './sceneToDrawing';
