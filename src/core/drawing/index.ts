export { colourOf, INK_COLOURS, type Ink, type Mark, type Scene } from './scene';
export { codeMarks } from './codeMarks';
