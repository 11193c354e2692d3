export {
  correctFile,
  CUT_FORMATS,
  FILE_CORRECTION_VERSION,
  FILE_LIMIT_BYTES,
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
export { sceneToDrawing } from './sceneToDrawing';
